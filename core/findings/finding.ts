import {
  channelOf,
  makeEdit,
  type Channel,
  type Controller,
  type Edit,
  type Input,
  type Part,
  type Site,
} from '../site'
import type { Column } from '../ways'

/** danger: can hurt someone or damage · error: will not work · warning: works badly or will surprise · note */
export type Severity = 'danger' | 'error' | 'warning' | 'note'
export const SEVERITIES: readonly Severity[] = ['danger', 'error', 'warning', 'note']

/** The thing that a finding is about, so that a view can point at it. */
export interface Where {
  readonly thing:
    | 'controller'
    | 'channel'
    | 'input'
    | 'load'
    | 'part'
    | 'point'
    | 'widget'
    | 'way'
    | 'entity'
    | 'service'
    | 'hub'
    | 'key'
    | 'link'
    | 'rule'
    | 'group'
    | 'sensor'
    | 'template'
    | 'credential'
  readonly id: string
  readonly name: string
  readonly controller?: string
  readonly channel?: string
  /** role whose pin is meant */
  readonly role?: string
  /** step of the job where it is mended */
  readonly step: 'bench' | 'ways' | 'build'
  /** column of the crossbar, where it is mended there */
  readonly column?: Column
  /** side of the ways view, where it is mended beside the crossbar */
  readonly side?: 'services' | 'voice' | 'remotes' | 'links' | 'rules' | 'credentials' | 'templates'
}

/** The beginning of a place that is a channel. */
export const channelPlace = ({ id, name, controller }: Channel) =>
  ({ thing: 'channel', id, name, channel: id, controller }) as const
/** The same of a controller. */
export const controllerPlace = ({ id, name }: Controller) =>
  ({ thing: 'controller', id, name, controller: id }) as const

/** A switch, where it is wired. */
export const inputPlace = ({ id, name, controller }: Input): Where => ({
  thing: 'input',
  id,
  name,
  controller,
  role: `in:${id}`,
  step: 'bench',
})

/** One press that mends it. The edit is worked out when it is asked for. */
export interface Fix {
  readonly label: string
  readonly change: (draft: Site) => void
}

export interface Finding {
  readonly id: string
  readonly severity: Severity
  readonly title: string
  readonly where: Where
  /** the facts, with their numbers */
  readonly what: string
  readonly why: string
  readonly fixes: readonly Fix[]
  /** the maker's reason, when it has been accepted on these facts */
  readonly accepted?: string
}

/** What the logbook knows that bears on the site. */
export interface RecordOfBuilds {
  /** the last flash of each controller: hash of the tables that are on the board */
  readonly flashed: readonly { readonly controller: string; readonly hash: string }[]
  /** what is known of the credentials, never their values; null: nobody looked (a file on its own) */
  readonly credentials: readonly CredentialRecord[] | null
}

/** What the server knows of one stored credential without giving its value away. */
export interface CredentialRecord {
  readonly key: string
  /** a value that two keys share has one mark */
  readonly sameAs: string
  /** stored after the controller's last flash */
  readonly newerThanFlash: boolean
  /** a PIN that everybody tries first */
  readonly usualPin: boolean
  /** an address that leads out of the house; not said: it does not, or it is no address */
  readonly outside?: boolean
}

export const NO_RECORD: RecordOfBuilds = { flashed: [], credentials: null }

export type Check = (site: Site, record: RecordOfBuilds) => Finding[]

/** A name for the place that stays the same while the thing does. */
export const whereKey = (where: Where): string =>
  `${where.thing}:${where.controller && where.thing !== 'controller' ? `${where.controller}/` : ''}${where.id}${where.role && where.thing === 'controller' ? `#${where.role}` : ''}`

export const fixEdit = (site: Site, finding: Finding, fix: Fix): Edit =>
  makeEdit(site, `${finding.id}: ${fix.label.charAt(0).toLowerCase()}${fix.label.slice(1)}`, (draft) =>
    fix.change(draft as Site),
  )

/** A finding as it travels: with the name of its place, and its fixes worked out as patches. */
export const findingRow = (site: Site, finding: Finding) => ({
  ...finding,
  key: whereKey(finding.where),
  fixes: finding.fixes.map((fix) => ({ label: fix.label, patch: [...fixEdit(site, finding, fix).patch] })),
})

/** Accepts a finding with a reason. It lapses when its facts change. */
export const acceptEdit = (site: Site, finding: Finding, reason: string): Edit =>
  makeEdit(site, `accept ${finding.id} on ${finding.where.name}`, (draft) => {
    draft.accepted = draft.accepted.filter((a) => !(a.finding === finding.id && a.where === whereKey(finding.where)))
    draft.accepted.push({ finding: finding.id, where: whereKey(finding.where), reason, facts: finding.what })
  })

/** What a maker says to have fitted between a part and its pins. */
export const fit =
  (controller: Controller, id: string, what: NonNullable<Part['fitted']>[number]) =>
  (draft: Site): void => {
    const part = draft.controllers.find((c) => c.id === controller.id)?.parts.find((one) => one.id === id)
    if (part) part.fitted = [...(part.fitted ?? []).filter((one) => one !== what), what]
  }

/** A cell of the crossbar: a thing that belongs to a channel, in a column. */
export const inCell = (
  site: Site,
  channel: string,
  thing: Where['thing'],
  id: string,
  name: string,
  column: Column,
): Where => ({ thing, id, name, channel, controller: channelOf(site, channel)!.controller, step: 'ways', column })

/** The fix of a power-up policy that does harm, or nothing. */
export const offAfterPowerCut = ({ id }: Channel): Fix => ({
  label: 'Off after a power cut',
  change: (draft) => {
    const target = draft.channels.find((channel) => channel.id === id)
    if (target && 'powerUp' in target) target.powerUp = { policy: 'off' }
  },
})
