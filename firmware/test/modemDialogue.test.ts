import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { RUNTIME_DIR, WIRES_DIR } from '../host'
import { everyThird } from './fuzz.testkit'

// Source of the check: the sanitizers of the compiler, and the words of ITU-T V.250 (a line's end, result codes).

const folder = mkdtempSync(join(tmpdir(), 'vestibule-dialogue-'))
const SOURCE = readFileSync(join(WIRES_DIR, 'modem.cpp'), 'utf8')
const FLAGS = [
  '-std=c++11',
  '-O1',
  '-g',
  '-fsanitize=address,undefined',
  '-fno-sanitize-recover=all',
  '-Wall',
  '-Wextra',
]

/** Plays dialogues with a modem that raves and then behaves; what is wrong, or that all end well. */
function plays(name: string, source: string, dialogues: number): string {
  const file = join(folder, `${name}.cpp`)
  const program = join(folder, name)
  writeFileSync(file, source)
  const includes = [`-I${WIRES_DIR}`, `-I${RUNTIME_DIR}`]
  execFileSync('g++', [
    ...FLAGS,
    '-Wno-missing-field-initializers',
    ...includes,
    file,
    'firmware/test/modem.cpp',
    '-o',
    program,
  ])
  try {
    return execFileSync(program, [String(dialogues)], { encoding: 'utf8', timeout: 60_000, stdio: 'pipe' }).trim()
  } catch (error) {
    const { stdout, stderr } = error as { stdout: string; stderr: string }
    return `${stdout}${stderr}`.split('\n')[0]!
  }
}

describe('the dialogue with a modem that says anything', () => {
  it(
    'never leaves its memory, and stands again once the modem behaves: 2,000 dialogues',
    () => expect(plays('dialogue', SOURCE, 2_000)).toBe('2000 dialogues end well'),
    60_000,
  )

  it.each(
    everyThird([
      ['a line ends at its return', "if (character == '\\r') return;", "if (character == '\\r') character = '\\n';"],
      ['a line has no bound', 'if (modem.heardLength + 1 < LONGEST_LINE)', 'if (modem.heardLength < LONGEST_LINE + 9)'],
      [
        'silence beside a connection is borne',
        'default: return startsAnew(modem);',
        'default: return nothingAsked(modem);',
      ],
      ['a step that is left out is taken', '&& stepOf(modem).isLeftOut', '&& false'],
      ['failures are not counted', 'if (++modem.failures >= MOST_FAILURES) startsAnew(modem);', ''],
    ]),
  )(
    'would see it if %s',
    (name, from, to) => {
      expect(SOURCE).toContain(from)
      expect(plays(name.replace(/\W+/g, '-'), SOURCE.replace(from, to), 400)).not.toMatch(/end well/)
    },
    60_000,
  )
})
