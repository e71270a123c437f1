import { useSide } from '../WaysTabs'
import { channelOf, type Controller } from '../../../../core/site'
import { ruleWords } from '../../../../core/ways'
import { ChoiceField, NumberField } from '../../../parts/fields'
import { edit } from '../../../store/editing'
import { screenActions } from '../../../store/screenSlice'
import { useAppDispatch, useAppSelector } from '../../../store/store'
import { Controls } from './Controls'
import { Groups } from './Groups'
import { Sensors } from './Sensors'

/**
 * What happens by itself, and what is worked together: rules, their sensors, the auto mode, groups, and the ways to
 * both.
 */
export function RulesTab() {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const narrowed = useAppSelector((state) => state.screen.controller)
  const [, setSide] = useSide()
  const here = (id: string) => narrowed === null || id === narrowed
  const rules = site.rules.filter((rule) => here(channelOf(site, rule.channel)!.controller))
  const ruled = site.controllers.filter(
    (controller) =>
      here(controller.id) && site.rules.some((rule) => channelOf(site, rule.channel)!.controller === controller.id),
  )
  return (
    <div className="grid grid-cols-2 gap-8">
      <div className="space-y-5">
        <section aria-label="Rules">
          <h2 className="rule-head">Rules</h2>
          {rules.length === 0 && (
            <p className="mt-1 text-note text-soft">No rule yet: pick the Rules cell of a channel in the crossbar.</p>
          )}
          <ul>
            {rules.map((rule) => {
              const words = ruleWords(site, rule)
              return (
                <li key={rule.id} className="flex items-baseline gap-3 border-b border-hair py-1.5">
                  <button
                    type="button"
                    className="press-quiet -ml-1.5 w-36 shrink-0 text-left font-semibold"
                    onClick={() => {
                      dispatch(screenActions.cellPicked({ channel: rule.channel, column: 'rule' }))
                      setSide('crossbar')
                    }}
                  >
                    {channelOf(site, rule.channel)!.name}
                  </button>
                  <span className="min-w-0">
                    <span className="font-semibold">{words.title}</span>{' '}
                    <span className="text-note text-soft">{words.detail}</span>
                  </span>
                </li>
              )
            })}
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

function AutoFields({ controller }: { controller: Controller }) {
  const dispatch = useAppDispatch()
  const change = (label: string, mutate: (auto: Controller['auto']) => void) =>
    dispatch(
      edit(`${controller.name}: ${label}`, (draft) =>
        mutate(draft.controllers.find((c) => c.id === controller.id)!.auto),
      ),
    )
  return (
    <div
      role="group"
      aria-label={`Auto mode of ${controller.name}`}
      className="grid grid-cols-[5.5rem_5.2rem_1fr_4rem] items-end gap-2 border-b border-hair py-1.5"
    >
      <span className="font-place self-center font-semibold">{controller.name}</span>
      <ChoiceField
        label="Starts in"
        value={controller.auto.start}
        choices={[
          ['auto', 'auto'],
          ['manual', 'manual'],
        ]}
        onKeep={(start) =>
          change('start', (auto) => {
            auto.start = start
          })
        }
      />
      <ChoiceField
        label="A hand’s command"
        value={controller.auto.hand}
        choices={[
          ['yield', 'holds a while'],
          ['leave', 'ends auto'],
          ['ignore', 'is refused'],
        ]}
        onKeep={(hand) =>
          change('hand', (auto) => {
            auto.hand = hand
          })
        }
      />
      {controller.auto.hand === 'yield' && (
        <NumberField
          label="For"
          unit="min"
          value={controller.auto.yieldMinutes}
          least={1}
          most={1_440}
          onKeep={(minutes) =>
            change('yield', (auto) => {
              auto.yieldMinutes = minutes
            })
          }
        />
      )}
    </div>
  )
}
