import { forbiddenPatterns, readSelector, smallestRewiring } from '../wiring'
import { pointOf, type SelectorInput, type Site, type SteppedChannel, type WallWay } from '../site'
import { channelPlace, type Check, type Finding, type Where } from './finding'

const stepped = (site: Site): SteppedChannel[] => site.channels.filter((channel) => channel.kind === 'stepped')

const whereOf = (channel: SteppedChannel, column?: 'wall' | 'app'): Where => ({
  ...channelPlace(channel),
  role: `out:${channel.id}:1`,
  step: column ? 'ways' : 'bench',
  ...(column ? { column } : {}),
})

const changeChannel = (channel: SteppedChannel, change: (channel: SteppedChannel) => void) => (draft: Site) => {
  const target = draft.channels.find((c) => c.id === channel.id)
  if (target?.kind === 'stepped') change(target)
}

/** Selectors that set a stepped channel. */
const selectors = (site: Site): { channel: SteppedChannel; input: SelectorInput; way: WallWay }[] =>
  stepped(site).flatMap((channel) =>
    site.ways.flatMap((way) => {
      const input =
        way.kind === 'wall' && way.channel === channel.id ? site.inputs.find((i) => i.id === way.input) : undefined
      return way.kind === 'wall' && input?.kind === 'selector' ? [{ channel, input, way }] : []
    }),
  )

const list = (numbers: readonly number[]): string => numbers.join(', ')

type Rewiring = NonNullable<ReturnType<typeof smallestRewiring>>

const rewiringWords = (rewiring: Rewiring): string =>
  rewiring
    .map(({ level, bits }) => {
      if (bits.length === 0) return `level ${level}: leave all open`
      return `level ${level}: join ${bits.length > 1 ? `bits ${bits.join(' and ')}` : `bit ${bits[0]}`}`
    })
    .join('; ')

const useRewiring = (input: SelectorInput, rewiring: Rewiring) => (draft: Site) => {
  const target = draft.inputs.find((i) => i.id === input.id)
  if (target?.kind === 'selector') for (const { code, level } of rewiring) target.table[code] = level
}

/** F01 level that the selector cannot express */
export const levelNotExpressed: Check = (site) =>
  selectors(site).flatMap(({ channel, input }): Finding[] => {
    const { missing, expressed } = readSelector(input, channel)
    if (missing.length === 0) return []
    const rewiring = smallestRewiring(input, channel)
    const advice = rewiring
      ? `Smallest rewiring: ${rewiringWords(rewiring)}.`
      : `${input.bits} ${input.bits === 1 ? 'bit is' : 'bits are'} not enough for ${channel.patterns.length} levels.`
    return [
      {
        id: 'F01',
        severity: 'error',
        title: 'Fan speed the selector cannot reach',
        where: whereOf(channel, 'wall'),
        what:
          `${input.name} gives the levels ${list(expressed)}; ${list(missing)} ` +
          `${missing.length === 1 ? 'has' : 'have'} no code. ${advice}`,
        why: 'That is noticed when the switch is in the wall.',
        fixes: rewiring ? [{ label: 'Use the rewired selector', change: useRewiring(input, rewiring) }] : [],
      },
    ]
  })

/** F02 two codes for one level, or a code for a level that there is not */
export const codesCollide: Check = (site) =>
  selectors(site).flatMap(({ channel, input }): Finding[] => {
    const { collisions, beyond } = readSelector(input, channel)
    if (collisions.length === 0 && beyond.length === 0) return []
    const words = [
      ...collisions.map(({ level, codes }) => `codes ${list(codes)} all mean level ${level}`),
      ...(beyond.length ? [`code ${list(beyond)} means a level above ${channel.patterns.length - 1}`] : []),
    ]
    return [
      {
        id: 'F02',
        severity: 'warning',
        title: 'Selector codes collide',
        where: whereOf(channel, 'wall'),
        what: `${input.name}: ${words.join('; ')}.`,
        why: 'Two positions do the same, or one sets a level that does not exist.',
        fixes: [],
      },
    ]
  })

/** F03 pattern that closes contacts never meant together */
export const forbiddenPattern: Check = (site) =>
  stepped(site).flatMap((channel): Finding[] => {
    const wrong = forbiddenPatterns(channel)
    if (wrong.length === 0) return []
    return [
      {
        id: 'F03',
        severity: 'danger',
        title: 'Forbidden contacts together',
        where: whereOf(channel),
        what:
          wrong
            .map(
              ({ level, contacts }) =>
                `level ${level} of ${channel.name} closes contacts ${list(contacts.map((c) => c + 1))} together`,
            )
            .join('; ') + '.',
        why: 'Capacitors are connected that must not be: contacts weld, the motor burns.',
        fixes: [],
      },
    ]
  })

/** F04 no gap between steps */
export const noGap: Check = (site) =>
  stepped(site)
    .filter((channel) => channel.contacts > 1 && channel.gapMs === 0)
    .map((channel) => ({
      id: 'F04',
      severity: 'error',
      title: 'No gap between fan speeds',
      where: whereOf(channel),
      what: `${channel.name} closes one contact at the moment it opens another.`,
      why: 'Relays release more slowly than they pull in: for some milliseconds both are closed.',
      fixes: [
        {
          label: 'Set gap: 30 ms',
          change: changeChannel(channel, (c) => {
            c.gapMs = 30
          }),
        },
      ],
    }))

/** F05 level list and points disagree: levels that the point cannot say */
export const levelsBeyondPoint: Check = (site) =>
  stepped(site).flatMap((channel) =>
    site.ways.flatMap((way): Finding[] => {
      const point = way.kind === 'app' && way.channel === channel.id ? pointOf(site, way.service, way.point) : undefined
      if (way.kind !== 'app' || !point) return []
      const positions = Math.floor((point.max - point.min) / point.step) + 1
      const top = channel.patterns.length - 1
      if (positions >= top + 1) return []
      return [
        {
          id: 'F05',
          severity: 'warning',
          title: 'Point cannot express all levels',
          where: whereOf(channel, 'app'),
          what:
            `vp${point.vp} has ${positions} positions (${point.min}–${point.max} by ${point.step}), ` +
            `${channel.name} has ${top + 1} levels.`,
          why: 'Some levels can be shown but never set.',
          fixes: [
            {
              label: `Set the point: 0–${top}, step 1`,
              change: (draft) => {
                Object.assign(
                  draft.services.find((s) => s.id === way.service)!.points.find((p) => p.id === point.id)!,
                  { min: 0, max: top, step: 1, default: 0, unit: '' },
                )
              },
            },
          ],
        },
      ]
    }),
  )

export const fanChecks: readonly Check[] = [levelNotExpressed, codesCollide, forbiddenPattern, noGap, levelsBeyondPoint]
