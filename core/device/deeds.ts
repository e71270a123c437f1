import { KINDS } from '../site'
import { NO_LEVEL, type ControllerAction, type ImageDeed, type ImagePoint } from '../image'
import { command } from './channels'
import { log, type DeviceState } from './state'
import { handInAuto, setMode } from './auto'
import type { Command, Source } from './types'

/** Does what a binding, key or character says, to a channel, a group or the controller itself. */
export function doDeed(state: DeviceState, deed: ImageDeed, level: number, source: Source): void {
  if (deed.on === 'controller') return controllerAction(state, deed.action as ControllerAction)
  const told = { action: deed.action as Command['action'], level }
  if (deed.on === 'channel') byHand(state, deed.index, told, source)
  else groupCommand(state, deed.index, told, source)
}

/** A command by a person. In auto mode the controller's policy says what becomes of it. */
export function byHand(state: DeviceState, index: number, told: Command, source: Source): void {
  if (!handInAuto(state, index, told)) return
  // whoever stands there knows better than what a service remembers
  speakFirst(state, (point) => point.carries === 'channel' && point.index === index)
  command(state, index, told, source)
}

/** Auto or manual, by a person. */
export function modeByHand(state: DeviceState, auto: boolean): void {
  speakFirst(state, (point) => point.carries === 'mode')
  setMode(state, auto)
}

/** Points that no longer wait for what the service holds. */
function speakFirst(state: DeviceState, which: (point: ImagePoint) => boolean): void {
  state.image.points.forEach((point, i) => {
    if (which(point)) state.heldBack[i] = false
  })
}

/**
 * A group's members in channel order. `off` spares essential ones. A toggle turns all off while any is on that `off`
 * would turn off. Feeds that are detached stay closed, and pulsed channels never take part: a door must not open
 * because somebody leaves the room. `on` gives each member its level where the group has levels, as a scene; one of 0
 * spares essential members like `off`.
 */
export function groupCommand(state: DeviceState, group: number, told: Command, source: Source): void {
  const { channels } = state.image
  const { members: all, levels } = state.image.groups[group]!
  const members = all.filter((index) => {
    const { inGroups } = KINDS[channels[index]!.kind]
    return inGroups === 'always' || (inGroups === 'local' && state.local)
  })
  const isOn = (index: number) => state.channels[index]!.level > 0 && !channels[index]!.essential
  const action = told.action !== 'toggle' ? told.action : members.some(isOn) ? 'off' : 'on'
  for (const index of members) {
    const level = action === 'on' ? (levels?.[all.indexOf(index)] ?? NO_LEVEL) : NO_LEVEL
    if ((action === 'off' || level === 0) && channels[index]!.essential) continue
    byHand(state, index, level === NO_LEVEL ? { action, level: told.level } : { action: 'level', level }, source)
  }
}

function controllerAction(state: DeviceState, action: ControllerAction): void {
  switch (action) {
    case 'auto':
      return modeByHand(state, true)
    case 'manual':
      return modeByHand(state, false)
    case 'autoToggle':
      return modeByHand(state, !state.channels.some((channel, index) => state.ruled[index] && channel.auto))
    case 'pair':
    case 'reset': {
      state.out.push({ t: state.now, do: action })
      return log(state, action === 'pair' ? 'pairing' : 'credentials reset')
    }
    case 'report': {
      for (const channel of state.channels) channel.reportDue = true
      for (const sensor of state.sensors) sensor.due = sensor.value !== null
      state.modeDue = true
      state.statusDue = true
    }
  }
}
