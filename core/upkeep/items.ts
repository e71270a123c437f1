import { boardIn } from '../boards'
import {
  channelOf,
  channelsOn,
  controllerOf,
  changesStore,
  loadOf,
  type Channel,
  type Controller,
  type Load,
  type Site,
} from '../site'

/** What wears, ages or must be looked at from time to time, and when it is due. Instants are ISO 8601. */
export interface UpkeepItem {
  /** unique in the site: "contact:bench-lights", "battery:throwing-remote" */
  readonly id: string
  readonly kind: 'contact' | 'store' | 'battery' | 'credential' | 'protection' | 'test' | 'backup'
  readonly controller: string | null
  readonly what: string
  /** what it is worked out from */
  readonly detail: string
  readonly last: string | null
  /** null: not known yet, as the detail says */
  readonly due: string | null
  /** a press says that it was done; else it is told otherwise */
  readonly byHand: boolean
}

/** What is known beside the document. */
export interface UpkeepFacts {
  readonly now: string
  /** changes of each channel as its reports were heard */
  readonly changes: readonly { readonly channel: string; readonly changes: number; readonly since: string }[]
  readonly credentials: readonly { readonly key: string; readonly name: string; readonly updatedAt: string }[]
  /** when each item was done last, by its id */
  readonly done: Readonly<Record<string, string>>
  /** when the site began to be kept: what was never done is due from then */
  readonly since: string
}

const DAY_MS = 86_400_000
const day = (ms: number): string => new Date(ms).toISOString()
const ms = (at: string): number => new Date(at).getTime()

/** `months` later, on the same day of the month or its last. */
export function monthsLater(at: string, months: number): string {
  const from = new Date(at)
  const to = new Date(Date.UTC(from.getUTCFullYear(), from.getUTCMonth() + months, 1, from.getUTCHours()))
  const last = new Date(Date.UTC(to.getUTCFullYear(), to.getUTCMonth() + 1, 0)).getUTCDate()
  to.setUTCDate(Math.min(from.getUTCDate(), last))
  return to.toISOString()
}

// ---- contacts ----

/**
 * Operations that a small power relay stands at its rated load (common practice: 100 000 with a resistive load; half of
 * it where the load is a motor, a lamp or a supply with inrush: from memory). Its data sheet decides.
 */
const LIFE_RESISTIVE = 100_000
const LIFE_INRUSH = 50_000
export const contactLife = (load: Load | undefined): number =>
  load?.type === 'heater'
    ? LIFE_RESISTIVE
    : load === undefined || load.supply === 'mains'
      ? LIFE_INRUSH
      : LIFE_RESISTIVE

/** A contact is changed before its end: at so much of its life. */
const CHANGE_AT = 0.8
/** Less than a week says nothing of a year. */
const LEAST_DAYS = 7

/** Two changes are one operation: the contact closes and opens. */
function contactItem(site: Site, channel: Channel, facts: UpkeepFacts): UpkeepItem {
  const life = contactLife(loadOf(site, channel.load))
  const base = {
    ...{ id: `contact:${channel.id}`, kind: 'contact' as const, controller: channel.controller as string },
    what: `Relay contact of ${channel.name}`,
    byHand: false,
  }
  const heard = facts.changes.find((row) => row.channel === channel.id)
  if (!heard) return { ...base, detail: 'not counted yet: its board has not been heard', last: null, due: null }
  return { ...base, ...wear(Math.ceil(heard.changes / 2), 'operations', life, heard.since, facts) }
}

/** How much of a life is used, and when so much of it is that the thing is to be changed. */
function wear(
  used: number,
  what: string,
  life: number,
  since: string,
  facts: UpkeepFacts,
): Pick<UpkeepItem, 'detail' | 'last' | 'due'> {
  const days = (ms(facts.now) - ms(since)) / DAY_MS
  const words = `${used} ${what} since ${since.slice(0, 10)}, of about ${life}`
  if (days < LEAST_DAYS || used === 0)
    return { detail: `${words}; a rate needs ${LEAST_DAYS} days`, last: since, due: null }
  const perDay = used / days
  const left = Math.max(0, life * CHANGE_AT - used) / perDay
  return {
    detail: `${words}, ${perDay.toFixed(1)} a day`,
    last: since,
    // further than a house is kept by one plan
    due: left > 50 * 365 ? null : day(ms(facts.now) + left * DAY_MS),
  }
}

// ---- stores ----

/** A write for each change at most: what comes within the store's delay is one. Null: nothing of it is stored. */
function storeItem(site: Site, { id, name, board: boardId }: Controller, facts: UpkeepFacts): UpkeepItem | null {
  const stored = channelsOn(site, id).filter(changesStore)
  const board = boardIn(site, boardId)
  if (!board || stored.length === 0) return null
  const heard = facts.changes.filter((row) => stored.some((channel) => channel.id === row.channel))
  const base = {
    ...{ id: `store:${id}`, kind: 'store' as const, controller: id as string },
    ...{ what: `Store of ${name} for the last states`, byHand: false },
  }
  if (heard.length === 0)
    return { ...base, detail: 'not counted yet: its board has not been heard', last: null, due: null }
  const writes = heard.reduce((sum, { changes }) => sum + changes, 0)
  const since = heard.map((row) => row.since).sort()[0]!
  return { ...base, ...wear(writes, 'writes', board.storeEndurance, since, facts) }
}

// ---- what is done every so many months ----

interface Round {
  readonly id: string
  readonly kind: UpkeepItem['kind']
  readonly controller: string | null
  readonly what: string
  readonly months: number
  readonly detail: string
}

function roundItem({ months, detail, ...row }: Round, facts: UpkeepFacts): UpkeepItem {
  const last = facts.done[row.id] ?? null
  return {
    ...row,
    detail: `every ${months === 1 ? 'month' : `${months} months`} (${detail})`,
    last,
    due: monthsLater(last ?? facts.since, months),
    byHand: true,
  }
}

const hasMains = (site: Site, controller: string): boolean =>
  site.channels.some((channel) => channel.controller === controller && loadOf(site, channel.load)?.supply === 'mains')

function rounds(site: Site): Round[] {
  const boxes = site.controllers.filter(({ id }) => hasMains(site, id))
  return [
    ...site.remotes.map(({ id, name, controller }): Round => ({
      ...{ id: `battery:${id}`, kind: 'battery', controller, what: `Battery of ${name}` },
      ...{ months: 12, detail: 'common practice' },
    })),
    ...(boxes.length > 0
      ? [
          {
            ...{ id: 'protection:rcd', kind: 'protection' as const, controller: null },
            what: 'Press the test button of the residual-current device',
            ...{ months: 6, detail: 'common practice; its own instructions decide' },
          },
        ]
      : []),
    ...boxes.map(({ id, name }): Round => ({
      ...{ id: `protection:${id}`, kind: 'protection', controller: id },
      what: `${name}: terminals, signs of heat and cable clamps looked at by an electrician, supply off and proved dead`,
      ...{ months: 24, detail: 'common practice; local rules decide' },
    })),
    // a radio has no channels: it is tried with its main board
    ...site.controllers
      .filter(({ id }) => channelsOn(site, id).length > 0)
      .map(({ id, name }): Round => ({
        ...{ id: `test:${id}`, kind: 'test', controller: id },
        what: `${name}: try what must work when the network is down`,
        ...{ months: 12, detail: 'common practice' },
      })),
    {
      id: 'backup',
      kind: 'backup',
      controller: null,
      what: 'Backup of all sites, tried by restoring',
      months: 1,
      detail: 'common practice',
    },
  ]
}

/** A secret is renewed after so many months (common practice). */
const SECRET_MONTHS = 24

const credentialItem = ({ key, name, updatedAt }: UpkeepFacts['credentials'][number]): UpkeepItem => ({
  ...{ id: `credential:${key}`, kind: 'credential', controller: null, what: `Renew ${name}`, byHand: false },
  detail: `every ${SECRET_MONTHS} months (common practice)`,
  last: updatedAt,
  due: monthsLater(updatedAt, SECRET_MONTHS),
})

/** Everything that is to be kept up, what is due first before what is not. */
export function upkeepOf(site: Site, facts: UpkeepFacts): UpkeepItem[] {
  const items = [
    ...site.channels.map((channel) => contactItem(site, channel, facts)),
    ...site.controllers.flatMap((controller) => storeItem(site, controller, facts) ?? []),
    ...rounds(site).map((row) => roundItem(row, facts)),
    ...facts.credentials.map(credentialItem),
  ]
  return items.sort((a, b) => (a.due ?? '9').localeCompare(b.due ?? '9') || a.what.localeCompare(b.what))
}

/** Is it due by an instant? */
export const isDue = ({ due }: UpkeepItem, now: string): boolean => due !== null && due <= now

/** Whose it is, as a person calls it. */
export const ownerOf = (site: Site, { controller, id }: UpkeepItem): string =>
  (controller === null ? undefined : controllerOf(site, controller as never)?.name) ??
  channelOf(site, id.replace(/^contact:/, '') as never)?.name ??
  site.name
