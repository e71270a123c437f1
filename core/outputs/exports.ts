import { siteJsonSchema, writeSite, type Site } from '../site'
import { asyncApiText } from './asyncApi'
import { hubFiles, hubSecretsExample } from './hubFile'
import { pointsCsv } from './pointsTable'
import { channelsCsv } from './tables'
import { controlsTable, infraredTable, quotaTable, serialTable, voiceTable } from './wayTables'

/** A file that is made of the whole site. */
export interface SiteExport {
  /** behind the site's id */
  readonly file: string
  readonly type: string
  /** as a page lists it */
  readonly name: string
  /** what stands in it */
  readonly what: string
  readonly make: (site: Site) => string
}

const out = (file: string, type: string, name: string, what: string, make: SiteExport['make']): SiteExport => ({
  file,
  type,
  name,
  what,
  make,
})
const schemaText = (): string => `${JSON.stringify(siteJsonSchema(), null, 2)}\n`
const CSV = 'text/csv'
const YAML = 'application/yaml'

/** Open formats in which a site goes out, a row each: for the server, the pages and the command line. */
export const SITE_EXPORTS = {
  site: out('.json', 'application/json', 'Site', 'the whole site document', writeSite),
  schema: out('.schema.json', 'application/schema+json', 'JSON Schema', 'what a site file may contain', schemaText),
  csv: out('-channels.csv', CSV, 'Channels', 'place, pins, load and ways of each', channelsCsv),
  'points-csv': out('-points.csv', CSV, 'Points', 'number, range, unit and access of each', pointsCsv),
  'serial-table': out('-serial-table.csv', CSV, 'Characters', 'both ends of every link', serialTable),
  voice: out('-voice.csv', CSV, 'Spoken names', 'with a phrase to try for each', voiceTable),
  infrared: out('-infrared.csv', CSV, 'Remote keys', 'codes as numbers and as µs', infraredTable),
  controls: out('-controls.csv', CSV, 'Groups and modes', 'what works them', controlsTable),
  quota: out('-quota.csv', CSV, 'Quotas', 'messages and bytes of each way', quotaTable),
  'hub-yaml': out('-hub.yaml', YAML, 'Hub file', 'entities, topics, heartbeat', hubFiles),
  'hub-secrets': out(
    '-hub-secrets.example.yaml',
    YAML,
    'Hub secrets, empty',
    'a separate file, to be filled in',
    hubSecretsExample,
  ),
  asyncapi: out('-asyncapi.yaml', YAML, 'AsyncAPI', 'every topic, version 3', asyncApiText),
} as const satisfies Record<string, SiteExport>

export type ExportFormat = keyof typeof SITE_EXPORTS
export const EXPORT_FORMATS = Object.keys(SITE_EXPORTS) as readonly ExportFormat[]
export const isExportFormat = (name: string): name is ExportFormat => Object.hasOwn(SITE_EXPORTS, name)
