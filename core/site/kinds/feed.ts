import type { FeedChannel } from '../channels'
import type { Kind } from './kind'
import { onAndOff, onAndOffActions } from './switched'

/** Feeds smart lamps: closed while the hub lives, worked by its own switch when the hub is gone. */
export const feed: Kind<FeedChannel> = {
  ...onAndOff,
  kind: 'feed',
  begin: (common) => ({ kind: 'feed', ...common }),
  actions: onAndOffActions,
  timing: () => ({ gapMs: 0, maxOnMs: 0, minOffMs: 0 }),
  // its lamps need power
  powerUp: () => ({ policy: 'on' }),
  inGroups: 'local',
  modes: ['detached', 'local'],
  entity: 'feed',
  seen: (_channel, level) => (level > 0 ? 'fed' : 'cut off'),
  moves: (_channel, _contact, closed) => (closed ? 'gives power' : 'cuts power'),
  closes: (channel, pins) => [`${channel.name}: ${pins[0]}, ${channel.active} closes; closed while the hub lives`],
}
