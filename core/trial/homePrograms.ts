import { channelOf } from '../site'
import { announceHeld, appServiceFilters, appServiceHears, type Step } from './appService'
import type { Message } from './broker'
import { believe } from './contacts'
import { after, brokerAt, brokerOf, HOUSE_BROKER, homeOf, note, track, type HouseState } from './house'
import { heartbeat, heartbeatMs, hubFilters, hubHears } from './hub'

/** The programs of the house and around it: app services and the hub, what they hear and what they say. */

export function connectPrograms(house: HouseState): void {
  for (const held of house.services) {
    // a phone shows what its service holds, from the first look on
    for (const [point, value] of Object.entries(held.state.values))
      for (const screen of house.index.screens.get(`${held.service.id}/${point}`) ?? [])
        if (screen.who === 'phone') believe(house, screen, value, null)
    const name = `service:${held.service.id}`
    const broker = brokerOf(house, held.service)
    broker.connect({ name, will: null })
    for (const filter of appServiceFilters(house.site.id)) broker.subscribe(name, filter)
    for (const message of announceHeld(house.site.id, held.service, held.state)) broker.publish(message)
  }
  connectHub(house)
  const every = heartbeatMs(house.site)
  if (every !== null) after(house, every, { kind: 'beat', everyMs: every })
}

/** A hub that comes up subscribes anew, and is told what is retained (MQTT 3.1.1, 3.3.1.3). */
export function connectHub(house: HouseState): void {
  const broker = brokerAt(house, HOUSE_BROKER)
  broker.connect({ name: 'hub', will: null })
  for (const filter of hubFilters(house.site.id)) broker.subscribe('hub', filter)
}

const causeOfTopic = (house: HouseState, topic: string): number | null => {
  const channel = house.index.channelOfTopic.get(topic)
  return (channel === undefined ? undefined : house.causes.get(channel)) ?? null
}

/** A service's own step: what it holds now, what its screens show, and what it says. */
export function serviceStep(house: HouseState, index: number, step: Step, cause: number | null): void {
  const held = house.services[index]!
  const before = held.state.values
  held.state = step.state
  for (const [point, value] of Object.entries(step.state.values))
    if (before[point] !== value)
      for (const screen of house.index.screens.get(`${held.service.id}/${point}`) ?? [])
        believe(house, screen, value, cause)
  if (house.down.has(homeOf(house, held.service))) return
  for (const message of step.publish) {
    const { topic, payload } = message
    track(house, { t: house.now, lane: 'message', from: held.service.id, topic, bytes: payload.length, cause })
    brokerOf(house, held.service).publish(message)
  }
}

/** A message reaches a service; one that lies takes no word for what is. */
export function serviceHears(house: HouseState, index: number, message: Message): void {
  const held = house.services[index]!
  const lies = house.faults.get(`service:${held.service.id}`) === 'lying'
  if (lies && message.topic.endsWith('/state')) return
  serviceStep(
    house,
    index,
    appServiceHears(house.site.id, held.service, held.state, message),
    causeOfTopic(house, message.topic),
  )
}

export function hubIsTold(house: HouseState, message: Message): void {
  if (house.down.has('hub')) return
  const lies = house.faults.get('hub') === 'lying'
  if (lies && message.topic.endsWith('/state')) return
  const before = house.hub
  house.hub = hubHears(house.site, before, message)
  const value = house.hub.beliefs[message.topic]
  if (value !== undefined && value !== before.beliefs[message.topic])
    for (const screen of house.index.screens.get(message.topic) ?? [])
      believe(house, screen, value, causeOfTopic(house, message.topic))
  for (const [id, on] of Object.entries(house.hub.lamps)) {
    if (before.lamps[id] === on) continue
    const name = channelOf(house.site, id)?.name ?? id
    note(house, 'output', `the hub turns the lamps behind ${name} ${on ? 'on' : 'off'}`, id)
  }
}

/** The hub's heartbeat goes on for ever; while the hub or the broker is gone nobody hears it. */
export function beat(house: HouseState, everyMs: number): void {
  if (!house.down.has('hub') && !house.down.has('broker'))
    brokerAt(house, HOUSE_BROKER).publish(heartbeat(house.site.id))
  after(house, everyMs, { kind: 'beat', everyMs })
}
