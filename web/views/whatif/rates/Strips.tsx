import type { Failures, Site, Strip } from '../../../../core/site'
import { TextField } from '../../../parts/fields'
import { needsName } from '../../../parts/form'
import type { Change } from '../../../store/useChange'

interface Props {
  readonly site: Site
  readonly change: Change<Failures>
}

/** What can hang on a strip: boxes of the house, and the supplies of controllers. */
const feedable = (site: Site): readonly (readonly [string, string])[] => [
  ['router', 'Router'],
  ['hub-machine', 'Hub machine'],
  ...site.controllers.map(({ id, name }) => [`power:${id}`, `Supply of ${name}`] as const),
]

/** A strip or circuit of its own id. */
function newStrip(failures: Failures): Strip {
  const taken = new Set(failures.strips.map(({ id }) => id))
  let number = 1
  while (taken.has(`strip-${number}`)) number++
  return { id: `strip-${number}`, name: `Socket strip ${number}`, feeds: ['router'] }
}

/** Socket strips and circuits: what goes out together when one of them does. */
export function Strips({ site, change }: Props) {
  const strips = site.failures?.strips ?? []
  return (
    <section aria-label="Strips and circuits" className="mt-4">
      <h2 className="rule-head">Strips and circuits</h2>
      {strips.length === 0 && (
        <p className="mt-1 text-small text-soft">
          None yet. Where router, hub and supplies share a strip or a circuit, one failure puts all of them out.
        </p>
      )}
      {strips.map((strip) => (
        <StripRow key={strip.id} site={site} change={change} strip={strip} />
      ))}
      <button
        type="button"
        className="press mt-2"
        onClick={() => change('add a strip', (failures) => void failures.strips.push(newStrip(failures)))}
      >
        Add strip or circuit
      </button>
    </section>
  )
}

function StripRow({ site, change, strip }: Props & { strip: Strip }) {
  const one = (what: string, mutate: (of: Strip) => void) =>
    change(`${strip.name}: ${what}`, (failures) => {
      const found = failures.strips.find(({ id }) => id === strip.id)
      if (found) mutate(found)
    })
  const turn = (fed: string, on: boolean): void =>
    void one(on ? 'feeds one more' : 'feeds one less', (of) => {
      const others = of.feeds.filter((feed) => feed !== fed)
      of.feeds = on ? [...others, fed] : others
    })
  return (
    <fieldset className="mt-2 border-b border-hair pb-2">
      <legend className="sr-only">{strip.name}</legend>
      <TextField
        label="Name"
        value={strip.name}
        check={needsName}
        onKeep={(name) => one('name', (of) => void (of.name = name))}
      />
      <Feeds site={site} strip={strip} onTurn={turn} />
      <button
        type="button"
        className="press-quiet mt-1"
        onClick={() =>
          change(`delete ${strip.name}`, (failures) => {
            failures.strips = failures.strips.filter(({ id }) => id !== strip.id)
          })
        }
      >
        Delete {strip.name}
      </button>
    </fieldset>
  )
}

interface FeedsProps {
  readonly site: Site
  readonly strip: Strip
  readonly onTurn: (fed: string, on: boolean) => void
}

/** What hangs on it: one thing at least. */
const Feeds = ({ site, strip, onTurn }: FeedsProps) => (
  <div className="mt-1 flex flex-wrap gap-x-4 gap-y-1 text-small">
    {feedable(site).map(([fed, name]) => {
      const isOn = strip.feeds.includes(fed)
      return (
        <label key={fed} className="flex min-h-6 items-center gap-1.5">
          <input
            type="checkbox"
            className="size-4 accent-(--ink)"
            checked={isOn}
            disabled={isOn && strip.feeds.length === 1}
            onChange={(event) => onTurn(fed, event.target.checked)}
          />
          {name}
        </label>
      )
    })}
  </div>
)
