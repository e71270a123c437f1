import { execFile } from 'node:child_process'
import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { promisify } from 'node:util'
import { afterAll, expect, it } from 'vitest'
import { cString } from '../../core/outputs/imageHeader'
import { choices, type Choices } from '../../core/seeded'

const run = promisify(execFile)

/** What people type, what they paste, and what a compiler takes for something else. */
const PIECES = [
  'Brücke',
  '??/',
  '??=',
  '\\',
  '"',
  "'",
  '\\n',
  '\\x41',
  '\u00e9',
  '日本',
  '🔑',
  '%s',
  '*/',
  '//',
  '\t',
  '\r\n',
  '7',
]

/** A text of up to 40 characters of all of Unicode, without NUL, with which a text in C ends. */
const randomText = (random: Choices): string =>
  Array.from({ length: random.whole(0, 40) }, () => {
    if (random.chance(0.3)) return random.pick(PIECES)
    if (random.chance(0.5)) return String.fromCharCode(random.whole(1, 0x7f))
    const code = random.whole(1, 0x10_ffff)
    return code >= 0xd800 && code <= 0xdfff ? 'é' : String.fromCodePoint(code)
  }).join('')

let folder = ''
afterAll(() => rm(folder, { recursive: true, force: true }))

// The old standard reads trigraphs by itself; the new one is what boards compile with.
it.each(['c++11', 'c++17'])(
  '10,000 random texts come out of a %s compiler byte by byte as they were typed',
  async (standard) => {
    folder ||= await mkdtemp(join(tmpdir(), 'vestibule-secrets-'))
    const random = choices(41)
    const texts = ['', 'Brücke', '??/', 'a??/\nb', ...Array.from({ length: 10_000 }, () => randomText(random))]
    const source = join(folder, 'texts.cpp')
    await writeFile(
      source,
      `#include <cstdio>\n#include <cstring>\nstatic const char* const TEXTS[] = {\n${texts.map((text) => cString(text)).join(',\n')}};\n` +
        `int main() { for (const char* text : TEXTS) { for (size_t i = 0; i < strlen(text); i++) printf("%02x", ` +
        `static_cast<unsigned char>(text[i])); puts(""); } }\n`,
    )
    const program = join(folder, 'texts')
    await run('g++', [`-std=${standard}`, '-Wall', '-Wextra', '-Werror', '-trigraphs', '-o', program, source])
    const { stdout } = await run(program, [], { maxBuffer: 1 << 26 })
    expect(stdout.split('\n').slice(0, -1)).toEqual(texts.map((text) => Buffer.from(text, 'utf8').toString('hex')))
  },
)
