import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import ts from 'typescript'

/** A text that a person can read, and where it stands. */
export interface Text {
  readonly file: string
  readonly line: number
  readonly text: string
}

/** Attributes whose values nobody reads. */
const UNREAD = new Set([
  'className',
  'data-testid',
  'type',
  'role',
  'id',
  'place',
  'd',
  'fill',
  'stroke',
  'viewBox',
  'to',
  'key',
])

const isUnread = (node: ts.Node): boolean =>
  ts.isImportDeclaration(node) ||
  ts.isExportDeclaration(node) ||
  (ts.isJsxAttribute(node) && UNREAD.has(node.name.getText()))

/** The words of a node: a literal, a template with its places, or text between tags. */
function wordsOf(node: ts.Node): string | null {
  if (ts.isStringLiteral(node) || ts.isNoSubstitutionTemplateLiteral(node)) return node.text
  if (ts.isTemplateExpression(node)) return node.getText().slice(1, -1)
  return ts.isJsxText(node) ? node.text.trim().replace(/\s+/g, ' ') : null
}

/** A string is a text when it is several words, or one that begins with a capital; a list of classes is none. */
const isText = (words: string): boolean =>
  /[A-Za-z]{2}/.test(words) &&
  (/\s/.test(words) || /^[A-Z]/.test(words)) &&
  !/(^|\s)(flex|grid|px-|py-|mt-|text-|border-|bg-|w-|min-|max-|rounded|absolute|inline)/.test(words)

function textsIn(file: string): Text[] {
  const kind = file.endsWith('x') ? ts.ScriptKind.TSX : ts.ScriptKind.TS
  const source = ts.createSourceFile(file, readFileSync(file, 'utf8'), ts.ScriptTarget.Latest, true, kind)
  const texts: Text[] = []
  const visit = (node: ts.Node): void => {
    if (isUnread(node)) return
    const words = wordsOf(node)
    if (words !== null && isText(words))
      texts.push({ file, line: source.getLineAndCharacterOfPosition(node.getStart()).line + 1, text: words })
    ts.forEachChild(node, visit)
  }
  visit(source)
  return texts
}

/** All texts of the source files of some folders, tests apart. */
export const textsOf = (...folders: readonly string[]): Text[] =>
  folders
    .flatMap((folder) => readdirSync(folder, { recursive: true, encoding: 'utf8' }).map((name) => join(folder, name)))
    .filter((file) => /\.tsx?$/.test(file) && !/\.(test|testkit)\.tsx?$/.test(file))
    .flatMap(textsIn)
