import { familyOf } from '../services'
import { freshId, type Channel, type ServiceId, type Site, type VoiceWay, type WayId } from '../site'

/** The voice service of the site, made where there is none. */
export function firstVoiceService(site: Site): ServiceId {
  const existing = site.services.find((service) => familyOf(site, service.kind) === 'voice')
  if (existing) return existing.id
  const id = freshId(site.services, 'voice', 'voice') as ServiceId
  site.services.push({
    kind: 'voice-bridge',
    id,
    name: 'Voice service',
    host: '',
    rulesOpen: null,
    points: [],
    widgets: [],
  })
  return id
}

/** A spoken name for a channel, which reaches it by its hub entity, else by its point. */
export function addVoiceWay(site: Site, channel: Channel, service = firstVoiceService(site)): VoiceWay {
  const through =
    site.ways.find((way) => way.channel === channel.id && way.kind === 'hub') ??
    site.ways.find((way) => way.channel === channel.id && way.kind === 'app')
  const way: VoiceWay = {
    kind: 'voice',
    id: freshId(site.ways, `${channel.id}-voice`, 'way') as WayId,
    channel: channel.id,
    service,
    name: channel.name.toLowerCase(),
    through: through?.id ?? null,
    pin: false,
  }
  site.ways.push(way)
  return way
}
