import { boardsIn, modulesIn, type RelayProfile } from '../../../core/boards'
import { mainOf, type Controller, type RelayModule } from '../../../core/site'
import { removeController } from '../../../core/ways'
import { ChoiceField, NumberField, TextField, TickField } from '../../parts/fields'
import { edit } from '../../store/editing'
import { screenActions } from '../../store/screenSlice'
import { useAppDispatch, useAppSelector } from '../../store/store'
import { NetworkFields } from './NetworkFields'

const JUMPERS: readonly (readonly [RelayModule['coilJumper'], string])[] = [
  ['removed', 'removed'],
  ['fitted', 'fitted'],
  ['none', 'has none'],
]

/** A module as its profile says; the jumper is taken off where there is one, as 3.3 V logic wants it. */
const moduleFrom = ({
  ways,
  active,
  input,
  coilVolts,
  coilOhms,
  coilJumper,
  contactAmps,
  contactVolts,
}: RelayProfile): RelayModule => ({
  ways,
  active,
  input,
  coilVolts,
  coilOhms,
  coilJumper: coilJumper ? 'removed' : 'none',
  inputOhms: 1_000,
  driver: 'module',
  contactAmps,
  contactVolts,
})

/** The controller itself: board, relay module, link, and what happens after an outage. */
export function ControllerFields({ controller }: { controller: Controller }) {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const boards = boardsIn(site)
  const relays = modulesIn(site).filter((one): one is RelayProfile => one.kind === 'relay-module')
  const change = (label: string, mutate: (controller: Controller) => void) =>
    dispatch(
      edit(`${controller.name}: ${label}`, (draft) => mutate(draft.controllers.find((c) => c.id === controller.id)!)),
    )
  const { module } = controller
  const mirrors = mainOf(site, controller.id) !== undefined
  const changeModule = (label: string, mutate: (module: RelayModule) => void) =>
    change(label, (c) => {
      if (c.module) mutate(c.module)
    })
  return (
    <section aria-label="Controller" className="mt-4">
      <h2 className="rule-head">{controller.name}</h2>
      <div className="mt-2 grid grid-cols-3 gap-2">
        <TextField
          label="Name"
          value={controller.name}
          check={(text) => (text.trim() ? null : 'a name is needed')}
          onKeep={(name) =>
            change('name', (c) => {
              c.name = name
            })
          }
        />
        <div className="col-span-2">
          <ChoiceField
            label="Board"
            value={controller.board}
            choices={boards.map((board) => [board.id, board.name] as const)}
            onKeep={(board) =>
              change('board', (c) => {
                c.board = board
                c.pins = {}
                c.link = boards.find((b) => b.id === board)!.link
              })
            }
            hint="another board takes the pins off"
          />
        </div>
        {/* a coprocessor turns nothing on, and stores nothing */}
        {!mirrors && (
          <>
            <NumberField
              label="Stagger"
              unit="ms"
              value={controller.staggerMs}
              least={0}
              most={10_000}
              onKeep={(ms) =>
                change('stagger', (c) => {
                  c.staggerMs = ms
                })
              }
            />
            <NumberField
              label="Store after"
              unit="ms"
              value={controller.storeMs}
              least={100}
              most={600_000}
              onKeep={(ms) =>
                change('store', (c) => {
                  c.storeMs = ms
                })
              }
            />
          </>
        )}
      </div>
      <NetworkFields controller={controller} change={change} />
      <TickField
        label="Writes its log to the serial port"
        value={controller.serialLog}
        onKeep={(on) =>
          change('serial log', (c) => {
            c.serialLog = on
          })
        }
      />
      <div className="mt-2 border-t border-hair pt-2">
        <ChoiceField
          label="Take the relay module from a profile"
          value=""
          choices={[
            ['', module ? 'as below' : 'no relay module'],
            ...(module ? [['none', 'no relay module'] as const] : []),
            ...relays.map((one) => [one.id, one.name] as const),
          ]}
          onKeep={(id) => {
            const profile = relays.find((one) => one.id === id)
            if (profile)
              change(profile.name, (c) => {
                c.module = moduleFrom(profile)
              })
            else if (id === 'none')
              change('no relay module', (c) => {
                c.module = null
              })
          }}
        />
      </div>
      {module ? (
        <fieldset className="mt-2">
          <legend className="sr-only">Relay module</legend>
          <div className="grid grid-cols-3 gap-2">
            <NumberField
              label="Relay module, ways"
              value={module.ways}
              least={1}
              most={16}
              onKeep={(ways) =>
                changeModule('relays', (m) => {
                  m.ways = ways
                })
              }
            />
            <ChoiceField
              label="Input"
              value={module.input}
              choices={[
                ['opto', 'opto'],
                ['transistor', 'transistor'],
              ]}
              onKeep={(input) =>
                changeModule('module input', (m) => {
                  m.input = input
                })
              }
            />
            <ChoiceField
              label="Pulls in on"
              value={module.active}
              choices={[
                ['low', 'low'],
                ['high', 'high'],
              ]}
              onKeep={(active) =>
                changeModule('module level', (m) => {
                  m.active = active
                })
              }
            />
            <ChoiceField
              label="Coils"
              value={String(module.coilVolts) as '5' | '12'}
              choices={[
                ['5', '5 V'],
                ['12', '12 V'],
              ]}
              onKeep={(volts) =>
                changeModule('coils', (m) => {
                  m.coilVolts = volts === '12' ? 12 : 5
                })
              }
            />
            <ChoiceField
              label="Coil-supply jumper"
              value={module.coilJumper}
              choices={JUMPERS}
              onKeep={(jumper) =>
                changeModule('jumper', (m) => {
                  m.coilJumper = jumper
                })
              }
            />
          </div>
        </fieldset>
      ) : (
        <p className="mt-2 text-note text-soft">No relay module: the outputs drive something else.</p>
      )}
      <button
        type="button"
        className="press-quiet mt-3 -ml-1.5 text-error"
        onClick={() => {
          dispatch(screenActions.controllerPicked(null))
          dispatch(edit(`${controller.name} off the table`, (draft) => removeController(draft, controller.id)))
        }}
      >
        Take {controller.name} off the table, with its channels and switches
      </button>
    </section>
  )
}
