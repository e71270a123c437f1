import { execFileSync } from 'node:child_process'
import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { RUNTIME_DIR, runtimeSources, STRICT_FLAGS } from '../host'

describe('the stored record', () => {
  it(
    'after a cut of the power at any byte it is the old or the new, never another; a store of anything ' +
      'gives no level that is not there',
    async () => {
      const program = join(mkdtempSync(join(tmpdir(), 'vestibule-store-')), 'store')
      execFileSync('g++', [
        ...STRICT_FLAGS,
        '-O1',
        '-fsanitize=address,undefined',
        '-fno-sanitize-recover=all',
        '-Wno-missing-field-initializers',
        join('firmware', 'test', 'store.cpp'),
        ...(await runtimeSources(RUNTIME_DIR)),
        '-o',
        program,
      ])
      const said = execFileSync(program, { encoding: 'utf8' })
      console.log(`torn writes: ${said.trim()}`)
      expect(Number(/^(\d+) cuts$/m.exec(said)![1])).toBeGreaterThan(100_000)
    },
    120_000,
  )
})
