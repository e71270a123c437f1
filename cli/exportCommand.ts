import {
  cautionsFor,
  connectionsCsv,
  EXPORT_FORMATS,
  isExportFormat,
  netlistText,
  partsCsv,
  renderTemplate,
  SITE_EXPORTS,
  stageCautions,
  STAGE_NAMES,
  STAGES,
  testList,
  wiringSvg,
} from '../core/outputs'
import { tablesOf } from '../core/image'
import { siteJsonSchema, type Site } from '../core/site'
import { circuitOf } from '../core/wiring'
import { asJson, loadSite, Unusable, type Answer, type Source } from './commands'

/** Every file that a site gives, one at a time. */

/** Formats that are made for one controller. */
const PER_CONTROLLER = ['svg', 'netlist', 'parts', 'connections', 'test-list', 'image'] as const

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
  if (format === 'test-list') return { exit: 0, text: testListText(site, controller.id) }
  if (format === 'image') return { exit: 0, text: asJson(tablesOf(site, controller.id).image) }
  if (format === 'connections') return { exit: 0, text: connectionsCsv(site, controller.id) }
  const { default: Elk } = await import('elkjs/lib/elk.bundled.js')
  return {
    exit: 0,
    text: await wiringSvg(circuit, `${site.name}: ${controller.name}`, cautionsFor(site, controller.id), new Elk()),
  }
}

/** The test list to be gone through with a pen, stage by stage. */
function testListText(site: Site, controller: string): string {
  const items = testList(site, controller)
  return STAGES.map((stage) => {
    const lines = items.filter((item) => item.stage === stage).map((item) => `- [ ] ${item.action}: ${item.expected}`)
    const cautions = stageCautions(site, controller, stage).map((line) => `> ${line}`)
    return [`## ${STAGE_NAMES[stage]}`, '', ...cautions, '', ...lines, ''].join('\n')
  }).join('\n')
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

export async function exportSite(source: Source | null, format: string, controller?: string): Promise<Answer> {
  // the schema is the same for every site, and needs none
  if (format === 'schema') return { exit: 0, text: asJson(siteJsonSchema()) }
  if (source === null) throw new Unusable('SITE.json is needed; see "vestibule export -h"')
  const path = source.name
  const site = loadSite(source)
  if (isExportFormat(format)) return { exit: 0, text: SITE_EXPORTS[format].make(site) }
  if (format.startsWith('template:')) return exportTemplate(site, path, format.slice('template:'.length))
  const own = PER_CONTROLLER.find((one) => one === format)
  if (own) return exportController(site, path, own, controller)
  throw new Unusable(
    `--format ${format}: is none of ${[...EXPORT_FORMATS, 'template:ID', ...PER_CONTROLLER].join(', ')}`,
  )
}
