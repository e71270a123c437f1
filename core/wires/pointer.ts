/**
 * The scalar at a JSON Pointer (RFC 6901) of a document, as text: of a string what stands between its quotes. It reads
 * no more of the document than it must, holds nothing of it, and never fails: what it cannot follow is not there. A
 * string with an escape is not there either, as are null, objects and lists.
 */
export function valueAt(document: string, pointer: string): string | undefined {
  let at = blanks(document, 0)
  let rest = pointer
  while (rest !== '') {
    const end = rest.indexOf('/', 1)
    const step = end < 0 ? rest.slice(1) : rest.slice(1, end)
    rest = end < 0 ? '' : rest.slice(end)
    const found =
      document[at] === '{' ? memberAt(document, at, step) : document[at] === '[' ? itemAt(document, at, step) : -1
    if (found < 0) return undefined
    at = found
  }
  return scalarAt(document, at)
}

const isBlank = (c: string | undefined): boolean => c === ' ' || c === '\t' || c === '\n' || c === '\r'
function blanks(text: string, at: number): number {
  while (isBlank(text[at])) at++
  return at
}

/** Behind the string that begins at a quote; at the end where it does not end. */
function afterString(text: string, at: number): number {
  for (at++; at < text.length; at++) {
    if (text[at] === '\\') at++
    else if (text[at] === '"') return at + 1
  }
  return text.length
}

/** Behind the value that begins here. */
function afterValue(text: string, at: number): number {
  let depth = 0
  do {
    const c = text[at]
    if (c === '"') at = afterString(text, at)
    else {
      if (c === '{' || c === '[') depth++
      else if (c === '}' || c === ']') {
        if (depth === 0) return at
        depth--
      } else if (c === ',' && depth === 0) return at
      at++
    }
  } while (at < text.length && (depth > 0 || !(text[at] === ',' || text[at] === '}' || text[at] === ']')))
  return at
}

/** Does a step of the pointer name this member? RFC 6901, 4: ~1 is a slash, ~0 a tilde. */
function names(step: string, text: string, from: number, to: number): boolean {
  let at = from
  for (let i = 0; i < step.length; i++, at++) {
    let c = step[i]!
    if (c === '~' && (step[i + 1] === '0' || step[i + 1] === '1')) c = step[++i] === '0' ? '~' : '/'
    if (at >= to || text[at] !== c) return false
  }
  return at === to
}

/** Where the value of a member begins; -1: there is none. */
function memberAt(text: string, at: number, step: string): number {
  for (at = blanks(text, at + 1); text[at] === '"';) {
    const end = afterString(text, at)
    const hit = names(step, text, at + 1, end - 1)
    at = blanks(text, end)
    if (text[at] !== ':') return -1
    at = blanks(text, at + 1)
    if (hit) return at
    at = blanks(text, afterValue(text, at))
    if (text[at] !== ',') return -1
    at = blanks(text, at + 1)
  }
  return -1
}

/** Where an item of a list begins. */
function itemAt(text: string, at: number, step: string): number {
  if (!/^(0|[1-9][0-9]{0,3})$/.test(step)) return -1
  at = blanks(text, at + 1)
  for (let left = Number(step); left > 0; left--) {
    at = blanks(text, afterValue(text, at))
    if (text[at] !== ',') return -1
    at = blanks(text, at + 1)
  }
  return text[at] === ']' ? -1 : at
}

function scalarAt(text: string, at: number): string | undefined {
  const isText = text[at] === '"'
  if (text[at] === '{' || text[at] === '[') return undefined
  if (isText) at++
  let end = at
  for (; end < text.length; end++) {
    const c = text[end]!
    if (isText ? c === '"' || c === '\\' : isBlank(c) || c === ',' || c === '}' || c === ']') break
  }
  // a string must end; anything else may end with the document
  if (isText && text[end] !== '"') return undefined
  const value = text.slice(at, end)
  return !isText && (value === '' || value === 'null') ? undefined : value
}
