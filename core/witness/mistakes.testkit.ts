import { produce } from 'immer'
import type { Site } from '../site'

/** A mistake that is flashed or wired at a bench, and the tests that it must spoil: all of these, and no others. */
export interface Mistake {
  readonly name: string
  readonly flashed: (site: Site) => Site
  readonly loses?: (topic: string) => boolean
  /** keys of the tests that must fail */
  readonly spoils: readonly RegExp[]
}

const of =
  (change: (draft: Site) => void) =>
  (site: Site): Site =>
    produce(site, change)
const controller = (draft: Site) => draft.controllers.find(({ id }) => id === 'throwing')!
const channel = (draft: Site, id: string) => draft.channels.find((one) => one.id === id)!

function swapPins(draft: Site, a: string, b: string): void {
  const { pins } = controller(draft)
  ;[pins[a], pins[b]] = [pins[b]!, pins[a]!]
}

/** Every test in which a relay of the channel is looked at, or its state by a hand at the wall counts. */
export const MISTAKES: readonly Mistake[] = [
  {
    name: 'two relays have each other’s pin',
    flashed: of((draft) => swapPins(draft, 'out:bench-lights', 'out:shelf-lights')),
    // the board says what it means; only an eye sees the other relay click, at every look at one of the two
    spoils: [
      /^alone:(bench|shelf)-lights:/,
      /^no-load:start:(bench|shelf)-lights:on/,
      /^load:load:(bench|shelf)-lights/,
    ],
  },
  {
    name: 'the polarity of one output is inverted',
    flashed: of((draft) => {
      channel(draft, 'wedging-lamp').active = 'high'
    }),
    spoils: [/^alone:wedging-lamp:/, /^no-load:start:wedging-lamp/, /^load:load:wedging-lamp/],
  },
  {
    name: 'two keys have each other’s code',
    flashed: of((draft) => {
      const { keys } = draft.remotes.find(({ controller: at }) => at === 'throwing')!
      const [a, b] = ['bench-lights', 'shelf-lights'].map((id) => keys.find((key) => key.id.startsWith(id))!)
      ;[a!.code, b!.code] = [b!.code, a!.code]
    }),
    spoils: [/^alone:(bench|shelf)-lights:.*-remote:/],
  },
  {
    name: 'reports of a channel never arrive',
    flashed: (site) => site,
    loses: (topic) => topic.includes('/wedging-lamp/state'),
    spoils: [
      /^alone:wedging-lamp:/,
      /:start:wedging-lamp/,
      /^alone:control:/,
      /^load:load:wedging-lamp/,
      /^no-load:outage:network/,
    ],
  },
  {
    name: 'a power-up policy is another',
    flashed: of((draft) => {
      Object.assign(channel(draft, 'shelf-lights'), { powerUp: { policy: 'off' } })
    }),
    spoils: [/^no-load:start:shelf-lights:on/],
  },
  {
    name: 'a lamp that must stay off comes on with the power',
    flashed: of((draft) => {
      Object.assign(channel(draft, 'wedging-lamp'), { powerUp: { policy: 'on' } })
    }),
    spoils: [/^no-load:start:wedging-lamp/],
  },
  {
    name: 'two switches have each other’s pin',
    flashed: of((draft) => swapPins(draft, 'in:s1', 'in:s2')),
    spoils: [/^alone:(bench|shelf)-lights:.*-wall:/, /^alone:(bench|shelf)-lights:.*-(app|hub):/],
  },
  {
    name: 'two points of the phone have each other’s number',
    flashed: of((draft) => {
      const points = draft.services
        .find(({ id }) => id === 'app')!
        .points.filter(({ controller: at }) => at === 'throwing')
      const [a, b] = ['bench-lights', 'shelf-lights'].map((id) => points.find((point) => point.id === id)!)
      ;[a!.vp, b!.vp] = [b!.vp, a!.vp]
    }),
    // and the load’s test, in which the hand is at the phone
    spoils: [/^alone:(bench|shelf)-lights:.*-app:/, /^load:load:(bench|shelf)-lights/],
  },
  {
    name: 'a key that must act once repeats while it is held',
    flashed: of((draft) => {
      const { keys } = draft.remotes.find(({ controller: at }) => at === 'throwing')!
      keys.find((key) => key.id.startsWith('shelf-lights'))!.repeat = { policy: 'repeat', everyMs: 300 }
    }),
    spoils: [/^alone:shelf-lights:.*-remote:hold/],
  },
  {
    name: 'two levels of the fan have each other’s contacts',
    flashed: of((draft) => {
      const fan = channel(draft, 'clay-dust-fan')
      if (fan.kind === 'stepped') [fan.patterns[1], fan.patterns[2]] = [fan.patterns[2]!, fan.patterns[1]!]
    }),
    // the board says its levels; an eye sees the contacts, wherever it is shown levels 1 or 2 at rest
    spoils: [
      /^alone:clay-dust-fan:.*(-wall:select|-app:levels|-hub:levels|-remote:press|-nearby:send)/,
      /^load:load:clay-dust-fan/,
    ],
  },
  {
    name: 'two wires of the selector are the wrong way round',
    flashed: of((draft) => {
      const bits = Object.keys(controller(draft).pins).filter((role) => role.startsWith('in:r1'))
      swapPins(draft, bits[0]!, bits[1]!)
    }),
    spoils: [/^alone:clay-dust-fan:.*-wall:select/],
  },
  {
    name: 'an essential light belongs to “all off”',
    flashed: of((draft) => {
      channel(draft, 'bench-lights').essential = false
    }),
    spoils: [/^alone:control:throwing-room-all-of/],
  },
]
