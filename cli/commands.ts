import { mkdirSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { boardIn } from '../core/boards'
import { circuitOf } from '../core/wiring'
import { planPins } from '../core/pins'
import { checkSite, findingRow, isBlocking, uncheckedOf } from '../core/findings'
import { tablesOf, type ControllerImage } from '../core/image'
import { readTrace, runTrace, writeOutputs, type TraceLine } from '../core/device'
import {
  buildController,
  connectionsCsv,
  cautionsFor,
  netlistText,
  partsCsv,
  renderTemplate,
  wiringSvg,
  EXPORT_FORMATS,
  isExportFormat,
  SITE_EXPORTS,
} from '../core/outputs'
import { LARGEST_SITE_BYTES, readSite, siteJsonSchema, type Site } from '../core/site'
import { firmwareFiles } from '../firmware/files'
import { buildAvr, runAvrTrace, simulatorSupported } from '../firmware/avr'
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
    if (!stats.isFile()) throw new Unusable(`${path}: is not a file`)
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

export function loadSite(path: string): Site {
  const parsed = readSite(readFile(path, LARGEST_SITE_BYTES))
  if (!parsed.ok) throw new Unusable(`${path}: ${parsed.error.message}`)
  return parsed.value
}

const asJson = (value: unknown): string => `${JSON.stringify(value, null, 2)}\n`

export function check(path: string, json: boolean): Answer {
  const site = loadSite(path)
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

export function pins(path: string, json: boolean): Answer {
  const site = loadSite(path)
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

export function build(path: string, out: string, only: string | undefined, json: boolean): Answer {
  const site = loadSite(path)
  const findings = checkSite(site).filter(
    (finding) => finding.accepted === undefined && (finding.severity === 'error' || finding.severity === 'danger'),
  )
  if (findings.length)
    return {
      exit: 1,
      text:
        `not built: ${findings.length} open ${findings.length === 1 ? 'finding' : 'findings'} of danger or ` +
        `error (${findings.map((f) => f.id).join(', ')}); see "vestibule check ${path}"\n`,
    }
  const written = site.controllers
    .filter((controller) => only === undefined || controller.id === only)
    .map((controller) => {
      const made = buildController(site, controller.id, firmwareFiles())
      for (const file of made.files) {
        const target = join(out, controller.id, file.name)
        mkdirSync(dirname(target), { recursive: true })
        writeFileSync(target, file.text)
      }
      return {
        controller: controller.id,
        hash: made.image.hash,
        folder: join(out, controller.id),
        files: made.files.map((file) => file.name),
      }
    })
  if (written.length === 0) throw new Unusable(`${path}: there is no controller "${only}"`)
  return {
    exit: 0,
    text: json
      ? asJson({ builds: written })
      : written.map((b) => `${b.folder}: ${b.files.length} files, tables ${b.hash}\n`).join(''),
  }
}

export async function run(path: string, controller: string, tracePath: string, engine: string): Promise<Answer> {
  if (engine !== 'core' && engine !== 'firmware' && engine !== 'simavr')
    throw new Unusable(`--engine ${engine}: is none of core, firmware, simavr`)
  const site = loadSite(path)
  if (!site.controllers.some((candidate) => candidate.id === controller))
    throw new Unusable(
      `${path}: there is no controller "${controller}"; there are ${site.controllers.map((c) => c.id).join(', ')}`,
    )
  const { image, part } = tablesOf(site, controller)
  const text = readFile(tracePath, 64 * 1024 * 1024)
  // Both engines get the same checks, so that both refuse the same lines with the same words.
  const trace = readTrace(text)
  const outputs = runTrace(image, trace, part)
  if (engine === 'simavr' && part === 'mirror')
    throw new Unusable(`--engine simavr: ${controller} is a coprocessor; its main board is ${image.controller}`)
  if (engine === 'simavr' && boardIn(site, image.board)?.port !== 'avr')
    throw new Unusable(`--engine simavr: controller ${image.controller} is no 8-bit board`)
  if (engine === 'simavr') return { exit: 0, text: await onSimulator(image, trace) }
  if (engine === 'core') return { exit: 0, text: writeOutputs(outputs) }
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

/** Formats that are made for one controller. */
const PER_CONTROLLER = ['svg', 'netlist', 'parts', 'connections'] as const

async function exportController(
  site: Site,
  path: string,
  format: (typeof PER_CONTROLLER)[number],
  id: string | undefined,
): Promise<Answer> {
  const controller = site.controllers.find((candidate) => candidate.id === id)
  if (!controller)
    throw new Unusable(
      `${path}: --controller is needed for ${format}; there are ${site.controllers.map((c) => c.id).join(', ')}`,
    )
  const circuit = circuitOf(site, controller.id)
  if (format === 'netlist') return { exit: 0, text: netlistText(circuit) }
  if (format === 'parts') return { exit: 0, text: partsCsv(circuit, site.prices) }
  if (format === 'connections') return { exit: 0, text: connectionsCsv(site, controller.id) }
  const { default: Elk } = await import('elkjs/lib/elk.bundled.js')
  return {
    exit: 0,
    text: await wiringSvg(circuit, `${site.name}: ${controller.name}`, cautionsFor(site, controller.id), new Elk()),
  }
}

/** A template of the site, by its id. */
function exportTemplate(site: Site, path: string, id: string): Answer {
  const template = site.templates.find((candidate) => candidate.id === id)
  if (!template)
    throw new Unusable(
      `${path}: there is no template "${id}"; there are ${site.templates.map((t) => t.id).join(', ') || 'none'}`,
    )
  const rendered = renderTemplate(site, template.text)
  if (!rendered.ok)
    throw new Unusable(
      `${path}: template ${id}${rendered.line === null ? '' : `, line ${rendered.line}`}: ${rendered.message}`,
    )
  return { exit: 0, text: rendered.text }
}

export async function exportSite(path: string, format: string, controller?: string): Promise<Answer> {
  // the schema is the same for every site, and needs none
  if (format === 'schema') return { exit: 0, text: asJson(siteJsonSchema()) }
  const site = loadSite(path)
  if (isExportFormat(format)) return { exit: 0, text: SITE_EXPORTS[format].make(site) }
  if (format.startsWith('template:')) return exportTemplate(site, path, format.slice('template:'.length))
  const own = PER_CONTROLLER.find((one) => one === format)
  if (own) return exportController(site, path, own, controller)
  throw new Unusable(
    `--format ${format}: is none of ${[...EXPORT_FORMATS, 'template:ID', ...PER_CONTROLLER].join(', ')}`,
  )
}
