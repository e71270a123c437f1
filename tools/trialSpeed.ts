import { readFileSync } from 'node:fs'
import { readSite, type Site } from '../core/site'
import { World } from '../core/trial'
import { largeSite } from './largeSite'

/**
 * How fast the simulated house goes: a day and a year of the pottery, and a minute of 200 controllers with a press each
 * second. `npm run trial-speed -- [year]`.
 */

const DAY_MS = 86_400_000

function timed(name: string, simulatedMs: number, run: () => void): void {
  const begun = performance.now()
  run()
  const took = performance.now() - begun
  console.log(
    `${name}: ${(took / 1_000).toFixed(2)} s, ${Math.round(simulatedMs / took).toLocaleString('en')} times as fast as real`,
  )
}

const parsed = readSite(readFileSync('demo/fernhollow.json', 'utf8'))
if (!parsed.ok) throw parsed.error
const pottery = parsed.value

for (let i = 0; i < 4; i++) timed('a day of the pottery', DAY_MS, () => World.begin(pottery).advance(DAY_MS))
if (process.argv.includes('year'))
  timed('a year of the pottery', 365 * DAY_MS, () => World.begin(pottery).advance(365 * DAY_MS))

function pressEachSecond(site: Site, world: World, seconds: number): void {
  for (let s = 0; s < seconds; s++) {
    const input = site.inputs[s % site.inputs.length]!
    world.act(input.kind === 'rocker' ? { kind: 'rock', input: input.id } : { kind: 'press', input: input.id })
    world.advance(world.now + 200)
    if (input.kind !== 'rocker') world.act({ kind: 'release', input: input.id })
    world.advance(world.now + 800)
  }
}
const large = largeSite(200, 4)
const world = World.begin(large)
timed('200 controllers come up', 60_000, () => world.advance(60_000))
timed('200 controllers, a minute with a press each second', 60_000, () => pressEachSecond(large, world, 60))
