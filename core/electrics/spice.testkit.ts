import { execFileSync } from 'node:child_process'
import { existsSync, mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect } from 'vitest'

/** An independent circuit simulator, which `npm test` installs. */
const ngspice = '/usr/bin/ngspice'
export const hasSpice = existsSync(ngspice)

/** Runs a netlist through ngspice in batch mode and returns the printed values by name. */
export function spice(netlist: string): Record<string, number> {
  const path = join(mkdtempSync(join(tmpdir(), 'vestibule-spice-')), 'circuit.cir')
  writeFileSync(path, netlist)
  const text = execFileSync(ngspice, ['-b', path], { encoding: 'utf8', stdio: ['ignore', 'pipe', 'ignore'] })
  return Object.fromEntries(
    [...text.matchAll(/^([a-z_()0-9#.]+)\s*=\s*([-+0-9.e]+)/gim)].map(([, name, value]) => [
      name!.toLowerCase(),
      Number(value),
    ]),
  )
}

/** Within 3 %. */
export const close = (ours: number, theirs: number): void =>
  expect(Math.abs(ours - theirs) / Math.abs(theirs), `ours ${ours}, ngspice ${theirs}`).toBeLessThan(0.03)
