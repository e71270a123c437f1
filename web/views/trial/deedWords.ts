import { FAULT_WORDS, partsOf, PLACE_WORDS } from '../../../core/parts'
import { keyOf, type Site } from '../../../core/site'
import type { TrialAction } from '../../../core/trial'

const named = (list: readonly { readonly id: string; readonly name: string }[], id: string): string =>
  list.find((one) => one.id === id)?.name ?? id

/** What was done, in a few words. */
export function deedWords(site: Site, action: TrialAction): string {
  switch (action.kind) {
    case 'press':
      return `${named(site.inputs, action.input)} pressed`
    case 'release':
      return `${named(site.inputs, action.input)} let go`
    case 'rock':
      return `${named(site.inputs, action.input)} rocked`
    case 'turn':
      return `${named(site.inputs, action.input)} turned`
    case 'key':
      return `“${keyOf(site, action.remote, action.key)?.name ?? action.key}” on ${named(site.remotes, action.remote)}${action.repeat ? ', held' : ''}`
    case 'char':
      return `“${action.char}” over ${named(site.links, action.link)}`
    case 'say':
      return `“${action.text}”`
    case 'reading':
      return `${named(site.sensors, action.sensor)}: ${action.value}`
    case 'curve':
      return action.low === action.high
        ? `${named(site.sensors, action.sensor)}: ${action.low}`
        : `${named(site.sensors, action.sensor)}: a day from ${action.low} to ${action.high}`
    case 'clock':
      return `it is ${action.local.replace('T', ' ')}`
    default:
      return remoteWords(site, action)
  }
}

/** What was done from a screen, or to the house. */
function remoteWords(site: Site, action: TrialAction): string {
  switch (action.kind) {
    case 'widget': {
      const widgets = site.services.flatMap((service) => service.widgets)
      return `${named(widgets, action.widget)} on the phone: ${action.value ?? (action.on ? 'on' : 'off')}`
    }
    case 'hub':
      return `${named(
        site.hubs.flatMap(({ entities }) => entities),
        action.entity,
      )} by the hub: ${action.command}`
    case 'group':
      return `${named(site.groups, action.group)} by the hub: ${action.command}`
    case 'mode':
      return `${named(site.controllers, action.controller)} by the hub: ${action.command}`
    case 'replay':
      return 'the network says commands again'
    case 'pair':
      return `${named(site.controllers, action.controller)}: ${action.right ? 'the right PIN' : 'a wrong PIN'}`
    case 'stand':
      return `you are ${PLACE_WORDS[action.place]}`
    case 'break': {
      const part = partsOf(site).get(action.what)?.name ?? action.what
      return action.broken ? `${part}: ${FAULT_WORDS[action.how ?? 'gone']}` : `${part}: restored`
    }
    default:
      return ''
  }
}
