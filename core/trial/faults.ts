import { linksOf } from '../image'
import { downWith, FAULT_WORDS, type FaultKind, type Part, type PartId } from '../parts'
import { announceHeld } from './appService'
import { tell } from './boards'
import { settleContacts } from './contacts'
import type { ControllerInWorld } from './controllerInWorld'
import { connectHub } from './homePrograms'
import { after, brokerAt, brokerOf, clientOf, homeOf, note, track, type HouseState } from './house'
import { settleInput } from './inputs'
import { drawBetween } from './latency'
import { isOpen, loseLink } from './links'

/** What breaks, what breaks with it, and what comes back: at once, or after its own time to start. */

/** Breaks a part, or mends it. What the site does not have, and a fault that a part cannot have, is nothing. */
export const setFault = (house: HouseState, id: PartId, how: FaultKind | null): void => setFaults(house, [{ id, how }])

/** The same with several parts in one instant: what follows is worked out once, when all of them have failed. */
export function setFaults(
  house: HouseState,
  list: readonly { readonly id: PartId; readonly how: FaultKind | null }[],
): void {
  const changed = list.filter(({ id, how }) => failsNow(house, id, how))
  if (changed.length > 0) settleDown(house)
}

/** false: the part is not there, cannot fail so, or has failed so before. */
function failsNow(house: HouseState, id: PartId, how: FaultKind | null): boolean {
  const part = house.graph.get(id)
  if (!part || (how !== null && !part.faults.includes(how)) || (house.faults.get(id) ?? null) === how) return false
  const before = house.faults.get(id)
  if (how === null) house.faults.delete(id)
  else house.faults.set(id, how)
  track(house, { t: house.now, lane: `fault:${id}`, value: how, cause: null })
  note(house, 'fault', faultWords(house, part, how, before))
  if (id.startsWith('switch:')) {
    const input = id.slice('switch:'.length)
    if (how === 'stuck') house.stuckAt.set(input, house.held[input] ?? 0)
    else house.stuckAt.delete(input)
  }
  return true
}

/** The parts that a person speaks of every day have their own words. */
function faultWords(house: HouseState, part: Part, how: FaultKind | null, before: FaultKind | undefined): string {
  const is = how === 'gone' ? 'is down' : how === null && before === 'gone' ? 'is up again' : null
  const { id } = part
  if (is !== null && id.startsWith('power:')) {
    const name = house.controllers.find((candidate) => candidate.id === part.controller)?.name ?? part.name
    return `${name} ${how === null ? 'has power again' : 'has no power'}`
  }
  if (is !== null && (id === 'broker' || id === 'hub')) return `the ${id} ${is}`
  if (is !== null && (id === 'wifi' || id.startsWith('service:'))) return `${part.name} ${is}`
  return how === null ? `${part.name}: restored` : `${part.name}: ${FAULT_WORDS[how]}`
}

/** What follows from the faults there are: parts go down and come back, and everything that hangs on them is told. */
function settleDown(house: HouseState): void {
  const before = house.down
  house.down = whatIsDown(house)
  for (const id of house.graph.keys()) {
    const isDown = house.down.has(id)
    if (isDown === before.has(id)) continue
    track(house, { t: house.now, lane: `down:${id}`, value: Number(isDown), cause: null })
  }
  for (const controller of house.controllers) power(house, controller)
  programsReturn(house, before)
  for (const controller of house.controllers)
    linksOf(controller.image).forEach((link, index) => {
      const { state } = controller.device.inspect().links[index]!
      if (controller.powered && state !== 'down' && !isOpen(house, controller, link.id))
        loseLink(house, controller, index)
    })
  for (const input of house.site.inputs) settleInput(house, input, null)
  for (const controller of house.site.controllers) settleContacts(house, controller.id, () => null)
}

/** A part whose needs are there again, or that is mended, still has to start: it is down until then. */
function whatIsDown(house: HouseState): ReadonlySet<PartId> {
  const gone = [...house.faults].flatMap(([id, how]) => (how === 'gone' ? [id] : []))
  for (;;) {
    const down = downWith(house.graph, new Set([...gone, ...house.starting.keys()]))
    const cause = downWith(house.graph, new Set(gone))
    let changed = false
    for (const id of house.starting.keys()) if (cause.has(id)) changed = house.starting.delete(id) || changed
    for (const [id, { startsMs, needs }] of house.graph) {
      const wasDown = house.down.has(id)
      if (!startsMs || !wasDown || gone.includes(id) || house.starting.has(id) || needs.some((need) => down.has(need)))
        continue
      house.starting.set(id, ++house.starts)
      after(house, drawBetween(house, startsMs), { kind: 'returns', part: id, turn: house.starts })
      changed = true
    }
    if (!changed) return down
  }
}

/** A part has started; an older start of it, which was cut short, counts for nothing. */
export function returns(house: HouseState, id: PartId, turn: number): void {
  if (house.starting.get(id) !== turn) return
  house.starting.delete(id)
  // it is up: what whatIsDown looks at must not start it once more
  house.down = new Set([...house.down].filter((one) => one !== id))
  track(house, { t: house.now, lane: `down:${id}`, value: 0, cause: null })
  settleDown(house)
}

function power(house: HouseState, controller: ControllerInWorld): void {
  const on = !house.down.has(`board:${controller.id}`)
  if (on === controller.powered) return
  if (!on)
    linksOf(controller.image).forEach((link, index) => {
      brokerAt(house, link.id).drop(clientOf(controller, index))
      house.lostAt.set(`${controller.id}/${link.id}`, house.now)
    })
  if (on) house.pairings.starts(controller.id, house.now)
  tell(house, controller, { kind: 'power', on })
}

/** A board whose supply has sagged starts anew. */
export function restart(house: HouseState, controller: ControllerInWorld): void {
  const id: PartId = `board:${controller.id}`
  if (!controller.powered || house.starting.has(id)) return
  house.starting.set(id, ++house.starts)
  after(house, drawBetween(house, house.graph.get(id)?.startsMs ?? [1_000, 1_000]), {
    ...{ kind: 'returns', part: id, turn: house.starts },
  })
  settleDown(house)
}

function programsReturn(house: HouseState, before: ReadonlySet<PartId>): void {
  const isBack = (id: PartId): boolean => before.has(id) && !house.down.has(id)
  if ((isBack('hub') && !house.down.has('broker')) || (isBack('broker') && !house.down.has('hub'))) connectHub(house)
  for (const held of house.services)
    if (isBack(homeOf(house, held.service)))
      for (const message of announceHeld(house.site.id, held.service, held.state))
        brokerOf(house, held.service).publish(message)
}
