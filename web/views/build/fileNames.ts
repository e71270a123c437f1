import type { BuildFile } from '../../../core/api'

/** What is read at the bench, what other programs read, and what is compiled. */
export type FileGroup = 'sheets' | 'tables' | 'firmware'

export const groupOf = ({ name }: BuildFile): FileGroup =>
  name.startsWith('sheets/') ? 'sheets' : name.startsWith('tables/') ? 'tables' : 'firmware'

/** The order in which the sheets are wanted at the bench. */
const SHEET_ORDER = ['connections', 'service', 'flash-steps', 'setup']
const rank = (name: string): number => SHEET_ORDER.findIndex((sheet) => name.startsWith(`sheets/${sheet}`))

export const inGroup = (files: readonly BuildFile[], group: FileGroup): BuildFile[] =>
  files.filter((file) => groupOf(file) === group).sort((a, b) => rank(a.name) - rank(b.name))

const NAMES: Readonly<Record<string, string>> = {
  'sheets/service.md': 'Service sheet',
  'tables/hub-secrets.example.yaml': 'Hub secrets (example)',
  'tables/hub.yaml': 'Hub file (YAML)',
}

/** "sheets/flash-steps.md" as a person says it: Flash steps. Firmware files keep their paths. */
export function fileTitle(name: string): string {
  if (name in NAMES) return NAMES[name]!
  if (!/^(sheets|tables)\//.test(name)) return name.replace('firmware/', '')
  const [base, ending] = name.split('/')[1]!.split(/\.(?=[^.]*$)/) as [string, string]
  const words = base.replace(/[-.]/g, ' ')
  return `${words[0]!.toUpperCase()}${words.slice(1)}${ending === 'md' ? '' : ` (${ending.toUpperCase()})`}`
}

/** What is read first. */
export const firstRead = (files: readonly BuildFile[]): BuildFile | undefined =>
  inGroup(files, 'sheets')[0] ?? files[0]
