import { isCollection, isMap, isSeq, LineCounter, parseDocument, type Document } from 'yaml'
import type { Site } from '../site'
import { actionsOf, checkName, NoSuchName } from './names'
import { Scenario } from './schema'

export type ScenarioAnswer =
  { readonly ok: true; readonly scenario: Scenario } | { readonly ok: false; readonly message: string }

/**
 * A scenario from its text (YAML 1.2); what is wrong is one line that names the line of the text. With a site, what
 * that does not have is wrong too.
 */
export function readScenario(text: string, site?: Site): ScenarioAnswer {
  const lines = new LineCounter()
  const document = parseDocument(text, { lineCounter: lines })
  const [broken] = document.errors
  if (broken)
    return refused(lines.linePos(broken.pos[0]).line, broken.message.split('\n')[0]!.replace(/ at line.*$/, ''))
  const parsed = Scenario.safeParse(document.toJS())
  if (parsed.success) {
    const stray = site && strayName(site, parsed.data)
    return stray ? refused(lineOf(document, lines, stray.path), stray.what) : { ok: true, scenario: parsed.data }
  }
  const [issue] = parsed.error.issues
  return refused(lineOf(document, lines, issue!.path), messageOf(issue!))
}

/** The first name that a site does not have, and where it stands. */
function strayName(site: Site, { steps, never }: Scenario): { path: PropertyKey[]; what: string } | undefined {
  const tried = (path: PropertyKey[], look: () => void): { path: PropertyKey[]; what: string } | undefined => {
    try {
      look()
      return undefined
    } catch (error) {
      if (error instanceof NoSuchName) return { path, what: error.message }
      throw error
    }
  }
  for (const [i, step] of steps.entries())
    for (const key of ['do', 'expect'] as const) {
      const list = [step[key] ?? []].flat()
      for (const [j, one] of list.entries()) {
        const path = ['steps', i, key, ...(Array.isArray(step[key]) ? [j] : [])]
        const found = tried(path, () => (key === 'do' ? actionsOf(site, one as never) : checkName(site, one as never)))
        if (found) return found
      }
    }
  for (const [i, one] of (never ?? []).entries()) {
    const found = tried(['never', i], () => checkName(site, one))
    if (found) return found
  }
  return undefined
}

const refused = (line: number, what: string): ScenarioAnswer => ({ ok: false, message: `line ${line}: ${what}` })

interface Issue {
  readonly code?: string
  readonly message: string
  readonly path: PropertyKey[]
}

/** Of several shapes that could be meant none fits: what is there is named instead of all that could be. */
const messageOf = (issue: Issue): string => {
  const at = issue.path.filter((part) => typeof part === 'string').join(', ')
  if (issue.code === 'invalid_union')
    return `${at || 'this'} is none of the forms that a scenario knows (docs/formats.md)`
  return `${at ? `${at}: ` : ''}${issue.message}`
}

/** The line of the innermost thing of a path that the text has. */
function lineOf(document: Document, lines: LineCounter, path: readonly PropertyKey[]): number {
  let node: unknown = document.contents
  let line = 1
  for (const part of path) {
    if (isMap(node) || isSeq(node)) node = node.get(part, true)
    const range =
      isCollection(node) || (node && typeof node === 'object' && 'range' in node)
        ? (node as { range?: number[] }).range
        : undefined
    if (range?.[0] !== undefined) line = lines.linePos(range[0]).line
  }
  return line
}
