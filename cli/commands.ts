import { existsSync, mkdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { dirname, join, relative } from 'node:path'
import { boardIn } from '../core/boards'
import { planPins } from '../core/pins'
import { checkSite, findingRow, isBlocking, uncheckedOf } from '../core/findings'
import { tablesOf, type ControllerImage, type PairRole } from '../core/image'
import { readTrace, runTrace, writeOutputs, type TraceLine } from '../core/device'
import { buildController, type BuildFile } from '../core/outputs'
import { importChannels, importPoints } from '../core/imports'
import { applyOperations, readSite, writeSite, type Site } from '../core/site'
import { firmwareFiles } from '../firmware/files'
import { buildAvr, runAvrTrace, simulatorSupported } from '../firmware/avr'
import { buildRiscv, riscvSupported, runRiscvTraces } from '../firmware/riscv'
import { buildHost, runHostTrace } from '../firmware/host'

/** The input cannot be used: exit 2 with this one line. */
export class Unusable extends Error {}

export interface Answer {
  readonly text: string
  readonly exit: 0 | 1
}

export function readFile(path: string, largest: number): string {
  let size: number
  try {
    const stats = statSync(path)
    // a pipe is read like a file
    if (stats.isDirectory()) throw new Unusable(`${path}: is not a file`)
    size = stats.size
  } catch (error) {
    if (error instanceof Unusable) throw error
    throw new Unusable(`${path}: there is no such file`)
  }
  if (size > largest)
    throw new Unusable(
      `${path}: holds ${(size / 1048576).toFixed(1)} MiB, at most ${(largest / 1048576).toFixed(0)} MiB are read`,
    )
  return readFileSync(path, 'utf8')
}

/** A text with the name by which a refusal speaks of it. */
export interface Source {
  readonly name: string
  readonly text: string
}

export function loadSite({ name, text }: Source): Site {
  const parsed = readSite(text)
  if (!parsed.ok) throw new Unusable(`${name}: ${parsed.error.message}`)
  return parsed.value
}

export const asJson = (value: unknown): string => `${JSON.stringify(value, null, 2)}\n`

export function check(source: Source, json: boolean): Answer {
  const site = loadSite(source)
  const findings = checkSite(site)
  const exit = isBlocking(findings) ? 1 : 0
  if (json) {
    return {
      exit,
      text: asJson({
        findings: findings.map((finding) => findingRow(site, finding)),
      }),
    }
  }
  const lines = findings.map(
    (f) =>
      `${f.severity.padEnd(7)} ${f.id}  ${f.where.name}: ` +
      `${f.what}${f.accepted === undefined ? '' : ` (accepted: ${f.accepted})`}\n         ` +
      `${f.why}${f.fixes.length ? `\n         fix: ${f.fixes.map((fix) => fix.label).join(' · ')}` : ''}`,
  )
  const count = findings.length
  const found = count > 0 ? `${lines.join('\n')}\n${count} ${count === 1 ? 'finding' : 'findings'}\n` : 'no findings\n'
  // "no findings" says nothing of what nobody filled in
  const unchecked = uncheckedOf(site, 'a file on its own does not hold them').map(
    ({ what, why }) => `not checked: ${what}: ${why}\n`,
  )
  return { exit, text: found + unchecked.join('') }
}

export function pins(source: Source, json: boolean): Answer {
  const site = loadSite(source)
  const plans = site.controllers.map((controller) => planPins(site, controller.id))
  const exit = plans.every((plan) => plan.kind === 'planned') ? 0 : 1
  if (json) {
    return {
      exit,
      text: asJson({
        controllers: plans.map((plan) =>
          plan.kind === 'planned'
            ? {
                controller: plan.controller,
                board: plan.board,
                cost: plan.cost,
                roles: plan.pins.map(({ role, name, label, gpio, locked, cost, reason }) => ({
                  role,
                  name,
                  pin: label,
                  label,
                  gpio,
                  locked,
                  cost,
                  reason,
                })),
              }
            : { controller: plan.controller, board: plan.board, impossible: plan.reason, roles: plan.roles },
        ),
      }),
    }
  }
  const lines = plans.flatMap((plan) =>
    plan.kind === 'planned'
      ? [
          `${plan.controller} (${plan.board}), cost ${plan.cost}`,
          ...plan.pins.map((pin) => `  ${pin.name.padEnd(20)} ${pin.label.padEnd(5)} ${pin.reason}`),
        ]
      : [`${plan.controller}: ${plan.reason}`],
  )
  return { exit, text: `${lines.join('\n')}\n` }
}

/** Lists the files of a build, so that the next one knows which of them are its own to take away. */
const BUILD_LIST = '.vestibule-build.json'

/**
 * Writes a build's files, and takes away those that an earlier build wrote and that are none of this one. What the
 * maker has put there, as secrets.h, stays.
 */
function writeBuild(folder: string, files: readonly BuildFile[]): void {
  const list = join(folder, BUILD_LIST)
  const names = new Set(files.map(({ name }) => name))
  const before: unknown = existsSync(list) ? JSON.parse(readFileSync(list, 'utf8')) : []
  for (const name of Array.isArray(before) ? before : [])
    if (typeof name === 'string' && !names.has(name) && isInside(folder, name))
      rmSync(join(folder, name), { force: true })
  for (const { name, text } of files) {
    const target = join(folder, name)
    mkdirSync(dirname(target), { recursive: true })
    writeFileSync(target, text)
  }
  writeFileSync(list, `${JSON.stringify([...names], null, 2)}\n`)
}

/** A list that was written by somebody else must not take anything away elsewhere. */
const isInside = (folder: string, name: string): boolean => !relative(folder, join(folder, name)).startsWith('..')

/** Takes a table into a site, or says what is wrong with it; nothing is written without `out`. */
export function importTable(
  source: Source,
  kind: 'channels' | 'points',
  table: Source,
  out: string | null,
  json: boolean,
): Answer {
  const site = loadSite(source)
  const preview = kind === 'channels' ? importChannels(site, table.text) : importPoints(site, table.text)
  if (!preview.ok) {
    const { row, column, what } = preview.errors[0]!
    const more = preview.errors.length > 1 ? ` (and ${preview.errors.length - 1} more)` : ''
    throw new Unusable(`${table.name}: row ${row}${column ? `, ${column}` : ''}: ${what}${more}`)
  }
  if (out !== null) writeFileSync(out, writeSite(applyOperations(site, preview.edit.patch)))
  if (json) return { exit: 0, text: asJson({ changes: preview.changes, written: out, leftAlone: preview.leftAlone }) }
  const lines = preview.changes.map(({ kind: how, name, what }) => `${how.padEnd(8)} ${name}${what ? `: ${what}` : ''}`)
  const left = preview.leftAlone.length
    ? [`not imported: ${preview.leftAlone.join(', ')} (the table only shows them)`]
    : []
  const end = out === null ? 'nothing is written: name a file with --out' : `written to ${out}`
  return { exit: 0, text: `${[...lines, ...left, end].join('\n')}\n` }
}

export function build(source: Source, out: string, only: string | undefined, json: boolean): Answer {
  const site = loadSite(source)
  const findings = checkSite(site).filter(
    (finding) => finding.accepted === undefined && (finding.severity === 'error' || finding.severity === 'danger'),
  )
  if (findings.length)
    return {
      exit: 1,
      text:
        `not built: ${findings.length} open ${findings.length === 1 ? 'finding' : 'findings'} of danger or ` +
        `error (${findings.map((f) => f.id).join(', ')}); see "vestibule check ${source.name}"\n`,
    }
  const written = site.controllers
    .filter((controller) => only === undefined || controller.id === only)
    .map((controller) => {
      const made = buildController(site, controller.id, firmwareFiles())
      writeBuild(join(out, controller.id), made.files)
      return {
        controller: controller.id,
        hash: made.image.hash,
        folder: join(out, controller.id),
        files: made.files.map((file) => file.name),
      }
    })
  if (written.length === 0) throw new Unusable(`${source.name}: there is no controller "${only}"`)
  return {
    exit: 0,
    text: json
      ? asJson({ builds: written })
      : written.map((b) => `${b.folder}: ${b.files.length} files, tables ${b.hash}\n`).join(''),
  }
}

const ENGINES: readonly string[] = ['core', 'firmware', 'simavr', 'riscv']

/** What the firmware prints on the RISC-V of a small Wi-Fi board, under an emulator. */
async function onRiscv(image: ControllerImage, trace: string, part: PairRole): Promise<string> {
  if (!riscvSupported())
    throw new Unusable(
      '--engine riscv: install the emulator (Debian: apt-get install qemu-system-misc gcc-riscv64-unknown-elf ' +
        'picolibc-riscv64-unknown-elf)',
    )
  return (await runRiscvTraces(await buildRiscv(image), [trace], part))[0]!
}

export async function run(source: Source, controller: string, { text }: Source, engine: string): Promise<Answer> {
  if (!ENGINES.includes(engine)) throw new Unusable(`--engine ${engine}: is none of ${ENGINES.join(', ')}`)
  const site = loadSite(source)
  if (!site.controllers.some((candidate) => candidate.id === controller))
    throw new Unusable(
      `${source.name}: there is no controller "${controller}"; there are ${site.controllers.map((c) => c.id).join(', ')}`,
    )
  const { image, part } = tablesOf(site, controller)
  // Both engines get the same checks, so that both refuse the same lines with the same words.
  const trace = readTrace(text)
  const outputs = runTrace(image, trace, part)
  if (engine === 'simavr' && part === 'mirror')
    throw new Unusable(`--engine simavr: ${controller} is a coprocessor; its main board is ${image.controller}`)
  if (engine === 'simavr' && boardIn(site, image.board)?.port !== 'avr')
    throw new Unusable(`--engine simavr: controller ${image.controller} is no 8-bit board`)
  if (engine === 'simavr') return { exit: 0, text: await onSimulator(image, trace) }
  if (engine === 'core') return { exit: 0, text: writeOutputs(outputs) }
  if (engine === 'riscv') return { exit: 0, text: await onRiscv(image, text, part) }
  const { program } = await buildHost(image)
  return { exit: 0, text: await runHostTrace(program, text, 0, part) }
}

/**
 * What the 8-bit board's pins and serial port do, on the simulator; it has no network, and a line stands where it has
 * been sent.
 */
async function onSimulator(image: ControllerImage, trace: readonly TraceLine[]): Promise<string> {
  if (!simulatorSupported())
    throw new Unusable(
      '--engine simavr: install the simulator (Debian: apt-get install gcc-avr avr-libc libsimavr-dev libelf-dev)',
    )
  const run = await runAvrTrace(await buildAvr(image), image, trace)
  const lines = run.lines.map((line, i) => ({ t: run.lineTimes[i]!, line }))
  return [...run.outputs, ...lines]
    .sort((a, b) => a.t - b.t)
    .map((output) => `${JSON.stringify(output)}\n`)
    .join('')
}
