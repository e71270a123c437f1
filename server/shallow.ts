/** A document of ours is a tenth as deep. Deeper ones only cost time, here and wherever they are walked. */
const DEEPEST = 64

const [QUOTE, BACKSLASH] = [0x22, 0x5c]
const OPENS = new Set([0x5b, 0x7b])
const CLOSES = new Set([0x5d, 0x7d])

/** Whether a text of JSON is nested deeper than anything that is read here; looked at before it is parsed. */
export function isTooDeep(text: Uint8Array): boolean {
  let depth = 0
  let quoted = false
  for (let i = 0; i < text.length; i++) {
    const byte = text[i]!
    if (quoted) {
      if (byte === BACKSLASH) i++
      else if (byte === QUOTE) quoted = false
    } else if (byte === QUOTE) quoted = true
    else if (OPENS.has(byte) && ++depth > DEEPEST) return true
    else if (CLOSES.has(byte)) depth--
  }
  return false
}
