import { channelOf, type Controller, type Hub, type Rule } from '../../../../core/site'
import { ruleWords } from '../../../../core/ways'
import { Fields, fieldsOf } from '../../../parts/form'
import { selectShown } from '../../../store/selection'
import { useAppSelector } from '../../../store/store'
import { useChange, withId } from '../../../store/useChange'
import { useShowCell } from '../useShowCell'
import { Controls } from './Controls'
import { Groups } from './Groups'
import { Sensors } from './Sensors'

/**
 * What happens by itself, and what is worked together: rules, their sensors, the auto mode, groups, and the ways to
 * both.
 */
export function RulesTab() {
  const site = useAppSelector((state) => state.site.site)!
  const narrowed = useAppSelector(selectShown)
  const homeOf = (rule: Rule): string => channelOf(site, rule.channel)!.controller
  const rules = site.rules.filter((rule) => narrowed === null || homeOf(rule) === narrowed)
  const homes = new Set(rules.map(homeOf))
  const ruled = site.controllers.filter((controller) => homes.has(controller.id))
  return (
    <div className="grid @3xl:grid-cols-2 gap-8">
      <div className="space-y-5">
        <section aria-label="Rules">
          <h2 className="rule-head">Rules</h2>
          {rules.length === 0 && (
            <p className="mt-1 text-note text-soft">No rule yet: pick the Rules cell of a channel in the crossbar.</p>
          )}
          <ul>
            {rules.map((rule) => (
              <RuleLine key={rule.id} rule={rule} />
            ))}
          </ul>
        </section>
        {ruled.length > 0 && (
          <section aria-label="Auto mode">
            <h2 className="rule-head">Auto mode</h2>
            {ruled.map((controller) => (
              <AutoFields key={controller.id} controller={controller} />
            ))}
          </section>
        )}
        <Sensors />
      </div>
      <div className="space-y-5">
        <Groups />
        <Controls />
      </div>
    </div>
  )
}

function RuleLine({ rule }: { rule: Rule }) {
  const site = useAppSelector((state) => state.site.site)!
  const showCell = useShowCell()
  const words = ruleWords(site, rule)
  return (
    <li className="flex items-baseline gap-3 border-b border-hair py-1.5">
      <button
        type="button"
        className="press-quiet -ml-1.5 w-36 shrink-0 text-left font-semibold"
        onClick={() => showCell(rule.channel, 'rule')}
      >
        {channelOf(site, rule.channel)!.name}
      </button>
      <span className="min-w-0">
        <span className="font-semibold">{words.title}</span> <span className="text-note text-soft">{words.detail}</span>
      </span>
    </li>
  )
}

type Auto = Controller['auto']
const field = fieldsOf<Auto>()
const AUTO = [
  field.choice(
    'Starts in',
    'start',
    [
      ['auto', 'auto'],
      ['manual', 'manual'],
    ],
    { what: 'start' },
  ),
  field.choice(
    'A manual command',
    'hand',
    [
      ['yield', 'pauses auto'],
      ['leave', 'turns auto off'],
      ['ignore', 'is refused'],
    ],
    { what: 'hand' },
  ),
  field.number('For', 'yieldMinutes', {
    what: 'yield',
    unit: 'min',
    least: 1,
    most: 1_440,
    when: (auto) => auto.hand === 'yield',
  }),
]

/** Auto and manual as an entity of a hub. */
const modeEntity = (hubs: readonly Hub[]) =>
  fieldsOf<Controller>().choice(
    'Hub entity on',
    {
      read: (controller) => (controller.modeEntity?.hub ?? '') as string,
      write: (controller, hub) => {
        if (hub === '') delete controller.modeEntity
        else controller.modeEntity = { hub: hub as Hub['id'], name: `${controller.name} mode` }
      },
    },
    [['', 'no hub'], ...hubs.map(({ id, name }) => [id as string, name] as const)],
    { what: 'mode entity', place: 'col-start-2 col-span-2' },
  )

function AutoFields({ controller }: { controller: Controller }) {
  const change = useChange(controller.name, (draft) => withId(draft.controllers, controller.id)?.auto)
  const changeOwn = useChange(controller.name, (draft) => withId(draft.controllers, controller.id))
  const { hubs } = useAppSelector((state) => state.site.site!)
  return (
    <div
      role="group"
      aria-label={`Auto mode of ${controller.name}`}
      className="grid grid-cols-[5.5rem_5.2rem_1fr_4rem] items-end gap-2 border-b border-hair py-1.5"
    >
      <span className="font-place self-center font-semibold">{controller.name}</span>
      <Fields rows={AUTO} of={controller.auto} change={change} />
      {hubs.length > 0 && <Fields rows={[modeEntity(hubs)]} of={controller} change={changeOwn} />}
    </div>
  )
}
