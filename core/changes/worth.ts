import { Asker, faultsOf, houseHours, type ChannelFaults, type Question } from '../faults'
import { checkSite, whereKey, type Finding } from '../findings'
import type { Place } from '../parts'
import { replanRoles } from '../pins'
import { rolesOf, type Channel, type Site } from '../site'
import { optionsFor, type Option } from './options'

/** A change worked through: what it saves, what it costs, and what it does to everything else. */
export interface Worth {
  readonly id: string
  readonly label: string
  /** hours a year in which the question is so of the channel; null: at all times */
  readonly before: number | null
  readonly after: number | null
  /** the same of at least one channel of the house */
  readonly houseBefore: number
  readonly houseAfter: number
  /** pins that it takes, as printed on the board; a role for which none is left says so */
  readonly pins: readonly string[]
  /** what has to be bought or taught */
  readonly buys: readonly string[]
  /** other channels whose hours change, with by how much: less is better */
  readonly others: readonly { readonly name: string; readonly hours: number }[]
  /** findings that it settles, and those that it brings, as "H08 Heater returns after a power cut: Sink heater" */
  readonly settles: readonly string[]
  readonly brings: readonly string[]
}

/** What somebody who wants less of it could change, the most hours saved first; what changes nothing is left out. */
export function worthOf(site: Site, question: Question, channel: Channel, from: Place): Worth[] {
  const before = stateOf(site, question, from)
  const found = optionsFor(site, question, channel).flatMap((option): Worth[] => {
    const after = applied(site, option)
    if (!after) return []
    const worth = compared(site, after, option, channel, before, stateOf(after, question, from))
    const saves = saved(worth)
    return saves > 0.005 || worth.settles.length > 0 ? [worth] : []
  })
  return found.sort((a, b) => saved(b) - saved(a) || cost(a) - cost(b))
}

/** The site with a change made, and pins found for what is new; null: it cannot be made. */
export function applied(site: Site, { change }: Pick<Option, 'change'>): Site | null {
  const draft = structuredClone(site)
  try {
    changeAndPlan(draft, change)
    return draft
  } catch {
    return null
  }
}

/** Makes a change in a draft, and plans the pins of what it has added; what has a pin keeps it. */
export function changeAndPlan(draft: Site, change: Option['change']): void {
  const had = new Set(draft.controllers.flatMap(({ id }) => rolesOf(draft, id).map((role) => `${id} ${role.id}`)))
  change(draft)
  for (const { id } of draft.controllers) {
    const roles = rolesOf(draft, id).filter((role) => !had.has(`${id} ${role.id}`))
    if (roles.length > 0)
      replanRoles(
        draft,
        id,
        roles.map((role) => role.id),
      )
  }
}

interface State {
  readonly faults: readonly ChannelFaults[]
  readonly house: number
  readonly findings: readonly Finding[]
}

function stateOf(site: Site, question: Question, from: Place): State {
  const asker = new Asker(site)
  return {
    faults: faultsOf(site, [question], [from], asker),
    house: houseHours(site, question, from, asker),
    findings: checkSite(site),
  }
}

const YEAR = 8_760
const saved = ({ before, after, houseBefore, houseAfter }: Worth): number =>
  (before ?? YEAR) - (after ?? YEAR) + (houseBefore - houseAfter) / 1_000
const cost = ({ pins, buys }: Worth): number => pins.length + buys.length

const words = ({ id, title, where }: Finding): string => `${id} ${title}: ${where.name}`

function compared(site: Site, after: Site, option: Option, channel: Channel, was: State, is: State): Worth {
  const of = (state: State, id: string): number | null => state.faults.find((one) => one.channel === id)?.hours ?? null
  const open = (state: State): Map<string, string> =>
    new Map(state.findings.map((finding) => [`${finding.id} ${whereKey(finding.where)}`, words(finding)]))
  const [had, has] = [open(was), open(is)]
  const only = (a: Map<string, string>, b: Map<string, string>): string[] =>
    [...a].flatMap(([key, text]) => (b.has(key) ? [] : [text]))
  return {
    ...{ id: option.id, label: option.label, before: of(was, channel.id), after: of(is, channel.id) },
    ...{ houseBefore: was.house, houseAfter: is.house },
    ...{ pins: pinsTaken(site, after), buys: [...bought(site, after), ...(option.buys ? [option.buys] : [])] },
    others: site.channels
      .filter(({ id }) => id !== channel.id)
      .map(({ id, name }) => ({ name, hours: (of(is, id) ?? YEAR) - (of(was, id) ?? YEAR) }))
      .filter(({ hours }) => Math.abs(hours) > 0.05),
    ...{ settles: only(had, has), brings: only(has, had) },
  }
}

function pinsTaken(site: Site, after: Site): string[] {
  return after.controllers.flatMap(({ id, name, pins }) => {
    const had = new Set(rolesOf(site, id).map((role) => role.id as string))
    return rolesOf(after, id)
      .filter((role) => !had.has(role.id))
      .map((role) => (pins[role.id] ? `${pins[role.id]!.pin} of ${name}` : `no pin left on ${name}`))
  })
}

function bought(site: Site, after: Site): string[] {
  const more = (count: number, one: string): string[] => (count > 0 ? [`${count} ${one}`] : [])
  const keys = (of: Site): number => of.remotes.reduce((sum, remote) => sum + remote.keys.length, 0)
  return [
    ...more(after.inputs.length - site.inputs.length, 'switch and its cable'),
    ...more(after.remotes.length - site.remotes.length, 'remote with receiver'),
    ...more(keys(after) - keys(site), 'key to teach'),
    ...more(after.hubs.length - site.hubs.length, 'hub'),
    ...more(after.services.length - site.services.length, 'app service'),
  ]
}
