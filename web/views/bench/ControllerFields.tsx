import { boardIn, boardsIn, gpioSpots, modulesIn, type RelayProfile } from '../../../core/boards'
import { mainOf, type Controller, type RelayModule, type Site } from '../../../core/site'
import { removeController } from '../../../core/ways'
import { ChoiceField } from '../../parts/fields'
import { Fields, fieldsOf, needsName } from '../../parts/form'
import { takeOut } from '../../store/takeOut'
import { screenActions } from '../../store/screenSlice'
import { useAppDispatch, useAppSelector } from '../../store/store'
import { useChange, withId, type Change } from '../../store/useChange'
import { NetworkFields } from './NetworkFields'

/** A module as its profile says; the jumper is taken off where there is one, as 3.3 V logic wants it. */
const moduleFrom = ({ coilJumper, ways, active, input, ...profile }: RelayProfile): RelayModule => ({
  ways,
  active,
  input,
  coilVolts: profile.coilVolts,
  coilOhms: profile.coilOhms,
  coilJumper: coilJumper ? 'removed' : 'none',
  inputOhms: 1_000,
  driver: 'module',
  contactAmps: profile.contactAmps,
  contactVolts: profile.contactVolts,
})

const field = fieldsOf<Controller>()
const NAME = field.text('Name', 'name', { check: needsName })
const boardField = (site: Site) => {
  const boards = boardsIn(site)
  return field.choice(
    'Board',
    {
      read: (controller) => controller.board,
      write: (controller, board) => {
        const { link, boxed } = withId(boards, board)!
        controller.board = board
        controller.pins = {}
        controller.link = link
        // a box has its own relays and its own supply
        if (boxed) Object.assign(controller, { module: null, supply: null })
      },
    },
    boards.map((board) => [board.id, board.name] as const),
    { hint: 'changing the board clears all pins', place: 'col-span-2' },
  )
}
/** What a coprocessor has not: it turns nothing on, and stores nothing. */
const OWN = [
  field.number('Stagger', 'staggerMs', { unit: 'ms', least: 0, most: 10_000 }),
  field.number('Store after', 'storeMs', { what: 'store', unit: 'ms', least: 100, most: 600_000 }),
]
const flag = (key: 'statusLight' | 'twoLineFlash') => ({
  read: (controller: Controller) => controller[key] === true,
  write: (controller: Controller, on: boolean) => {
    if (on) controller[key] = true
    else delete controller[key]
  },
})
/** Ticks of a board: its log, its own light, and pins that a mode of writing the flash frees. */
function boardTicks(site: Site, { board: id, link }: Controller) {
  const board = boardIn(site, id)
  const freed = board ? gpioSpots(board).filter(({ freedBy }) => freedBy) : []
  return [
    field.tick('Writes its log to the serial port', 'serialLog', { what: 'serial log' }),
    field.tick('Its own light shows how the link stands', flag('statusLight'), {
      what: 'status light',
      when: () => board?.own?.light !== undefined && link !== 'none',
    }),
    field.tick(
      `Flash written in two lines: frees ${freed.map(({ label }) => label).join(' and ')}`,
      flag('twoLineFlash'),
      { what: 'two-line flash', when: () => freed.length > 0 },
    ),
  ]
}

const module = fieldsOf<RelayModule>()
const MODULE = [
  module.number('Relays', 'ways', { what: 'relays', least: 1, most: 16 }),
  module.choice(
    'Input',
    'input',
    [
      ['opto', 'opto'],
      ['transistor', 'transistor'],
    ],
    { what: 'module input' },
  ),
  module.choice(
    'Pulls in on',
    'active',
    [
      ['low', 'low'],
      ['high', 'high'],
    ],
    { what: 'module level' },
  ),
  module.choice(
    'Coils',
    {
      read: ({ coilVolts }) => String(coilVolts) as '5' | '12',
      write: (target, volts) => {
        target.coilVolts = volts === '12' ? 12 : 5
      },
    },
    [
      ['5', '5 V'],
      ['12', '12 V'],
    ],
  ),
  module.choice(
    'Coil-supply jumper',
    'coilJumper',
    [
      ['removed', 'removed'],
      ['fitted', 'fitted'],
      ['none', 'has none'],
    ],
    { what: 'jumper' },
  ),
  module.choice(
    'LEDs at an input',
    {
      read: ({ chain }) => chain ?? '',
      write: (target, chain) => {
        if (chain === '') delete target.chain
        else target.chain = chain
      },
    },
    [
      ['', 'not checked'],
      ['opto', 'opto only'],
      ['both', 'opto, indicator'],
    ],
    { what: 'input chain', when: ({ input }) => input === 'opto' },
  ),
  module.number('Resistor at an input', 'inputOhms', { what: 'input resistor', unit: 'Ω', least: 1, most: 100_000 }),
  module.choice(
    'Contacts',
    {
      read: ({ contacts }) => contacts ?? 'silver',
      write: (target, contacts) => {
        if (contacts === 'gold') target.contacts = contacts
        else delete target.contacts
      },
    },
    [
      ['silver', 'silver, as usual'],
      ['gold', 'gold'],
    ],
    { what: 'contacts' },
  ),
  module.choice(
    'Driver',
    'driver',
    [
      ['module', 'on the module'],
      ['transistor-and-diode', 'bare relays, transistor and diode'],
      ['transistor-only', 'bare relays, transistor only'],
      ['none', 'bare relays, none'],
    ],
    { place: 'col-span-2' },
  ),
]

/** The controller itself: board, relay module, link, and what happens after an outage. */
export function ControllerFields({ controller }: { controller: Controller }) {
  const site = useAppSelector((state) => state.site.site)!
  const change = useChange(controller.name, (draft) => withId(draft.controllers, controller.id))
  const mirrors = mainOf(site, controller.id) !== undefined
  return (
    <section aria-label="Controller" className="mt-4">
      <h2 className="rule-head">{controller.name}</h2>
      <div className="mt-2 grid grid-cols-2 @md:grid-cols-3 gap-2">
        <Fields rows={[NAME, boardField(site), ...(mirrors ? [] : OWN)]} of={controller} change={change} />
      </div>
      <NetworkFields controller={controller} change={change} />
      <Fields rows={boardTicks(site, controller)} of={controller} change={change} />
      <ModuleFields controller={controller} change={change} />
      <TakeOff controller={controller} />
    </section>
  )
}

function ModuleFields({ controller, change }: { controller: Controller; change: Change<Controller> }) {
  const site = useAppSelector((state) => state.site.site)!
  const relays = modulesIn(site).filter((one): one is RelayProfile => one.kind === 'relay-module')
  const changeModule: Change<RelayModule> = (what, mutate) =>
    change(what, (target) => {
      if (target.module) mutate(target.module)
    })
  const take = (id: string) => {
    const profile = withId(relays, id)
    if (!profile && id !== 'none') return
    change(profile?.name ?? 'no relay module', (target) => {
      target.module = profile ? moduleFrom(profile) : null
    })
  }
  const none = controller.module ? [['none', 'no relay module'] as const] : []
  return (
    <div className="mt-2 border-t border-hair pt-2">
      <ChoiceField
        label="Relay module profile"
        value=""
        choices={[
          ['', controller.module ? 'as below' : 'no relay module'],
          ...none,
          ...relays.map((one) => [one.id, one.name] as const),
        ]}
        onKeep={take}
      />
      {controller.module ? (
        <fieldset className="mt-2 grid grid-cols-2 @md:grid-cols-3 gap-2">
          <legend className="sr-only">Relay module</legend>
          <Fields rows={MODULE} of={controller.module} change={changeModule} />
        </fieldset>
      ) : (
        <p className="mt-2 text-note text-soft">No relay module: the outputs drive something else.</p>
      )}
    </div>
  )
}

function TakeOff({ controller }: { controller: Controller }) {
  const dispatch = useAppDispatch()
  const takeOff = () => {
    dispatch(screenActions.controllerPicked(null))
    dispatch(takeOut(controller.name, (draft) => removeController(draft, controller.id)))
  }
  return (
    <button type="button" className="press-quiet mt-3 -ml-1.5 text-error" onClick={takeOff}>
      Delete {controller.name}, its channels and its switches
    </button>
  )
}
