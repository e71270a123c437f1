import { kindOf, topLevel, type Channel, type ChannelAction, type Way } from '../site'

/** The levels that an action can bring a channel to, from off; levels that are set can be any. */
function levelsBy(channel: Channel, action: ChannelAction): readonly number[] {
  const top = topLevel(channel)
  switch (action) {
    case 'off':
    case 'stop':
    case 'close':
      return []
    // from rest the way down is the way to the top, if it goes round
    case 'down':
      return kindOf(channel).wraps(channel) ? [top] : []
    case 'on':
    case 'toggle':
      return channel.kind === 'paired' ? [1, 2] : [kindOf(channel).firstLevel(channel)]
    case 'a':
      return [1]
    case 'b':
      return [2]
    default:
      return Array.from({ length: top }, (_, i) => i + 1)
  }
}

/** The levels that a way can bring a channel to; none: it only turns off. */
export function levelsOf(channel: Channel, way: Way): readonly number[] {
  switch (way.kind) {
    case 'wall':
      return [...new Set(way.bindings.flatMap(({ action }) => levelsBy(channel, action)))]
    case 'remote':
    case 'link':
      return way.action === 'level' && way.level !== null
        ? [way.level].filter((level) => level > 0)
        : levelsBy(channel, way.action)
    case 'voice':
      return levelsBy(channel, channel.kind === 'paired' || channel.kind === 'pulsed' ? 'open' : 'on')
    default:
      return levelsBy(channel, 'level')
  }
}

/** The actions that a way can ask for; levels that are set can be any. */
const actionsOf = (way: Way): readonly ChannelAction[] =>
  way.kind === 'wall'
    ? way.bindings.map(({ action }) => action)
    : way.kind === 'remote' || way.kind === 'link'
      ? [way.action]
      : []

/** Brings to level 0: from where it stands, step by step where it must. */
export function turnsOff(channel: Channel, way: Way): boolean {
  if (channel.kind === 'pulsed') return false
  if (way.kind === 'app' || way.kind === 'hub') return true
  if (way.kind === 'voice') return channel.kind !== 'paired' && kindOf(channel).spoken.words(channel).off !== undefined
  if ((way.kind === 'remote' || way.kind === 'link') && way.action === 'level') return way.level === 0
  return actionsOf(way).some((action) => OFF.includes(action) || (action === 'down' && channel.kind === 'stepped'))
}
const OFF: readonly ChannelAction[] = ['off', 'stop', 'toggle', 'follow', 'level']
