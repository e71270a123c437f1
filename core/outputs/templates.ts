import { Liquid } from 'liquidjs'
import type { Site, Template, TemplateId } from '../site'
import { mappingOf } from './mapping'

/**
 * The maker's own text templates (Liquid). Sandboxed: no files, no includes, only own properties of plain data; limited
 * in time, memory and size, so that a loop without end costs a quarter of a second and not the page.
 */
const RENDER_MS = 250
const LARGEST_OUTPUT = 1_000_000
const MEMORY_UNITS = 5_000_000

export type Rendered =
  | { readonly ok: true; readonly text: string }
  | { readonly ok: false; readonly line: number | null; readonly message: string }

function engine(): Liquid {
  const made = new Liquid({
    ownPropertyOnly: true,
    strictFilters: true,
    strictVariables: false,
    templates: {},
    parseLimit: 100_000,
    renderLimit: RENDER_MS,
    memoryLimit: MEMORY_UNITS,
  })
  // a text of JSON is a double-quoted one of YAML (YAML 1.2.2, 1.2)
  made.registerFilter('yaml', (value: unknown) => JSON.stringify(String(value)))
  return made
}

/** Renders a template over a site. What goes wrong comes back as one line with its place, never as an exception. */
export function renderTemplate(site: Site, text: string): Rendered {
  try {
    const out = String(engine().parseAndRenderSync(text, mappingOf(site)))
    if (out.length > LARGEST_OUTPUT)
      return { ok: false, line: null, message: `the text grows beyond ${LARGEST_OUTPUT / 1e6} MB` }
    return { ok: true, text: out }
  } catch (error) {
    const { message } = error as Error
    const line = /line:(\d+)/.exec(message)?.[1]
    return {
      ok: false,
      line: line ? Number(line) : null,
      message: message.replace(/, (file:\S+, )?line:\d+(, col:\d+)?/, '').split('\n')[0]!,
    }
  }
}

const POINT_TABLE = `Points of {{ site.name }}
{% for controller in controllers %}{% assign own = points | where: "controller", controller.id %}{% if own.size > 0 %}
{{ controller.name }} ({{ controller.board }})
{% for point in own %}  vp{{ point.vp }}  {{ point.name }}: {{ point.min }} to {{ point.max }}{% if point.unit != "" %} {{ point.unit }}{% endif %}, default {{ point.default }}, {{ point.access }}{% if point.widgets.size > 0 %}, {{ point.widgets | join: " and " }}{% endif %}
{% endfor %}{% endif %}{% endfor %}`

const HUB_LIST = `# what the hub must know of {{ site.id }}
{% for entity in entities %}- id: {{ entity.id }}
  name: {{ entity.name | yaml }}
  room: {{ entity.room | yaml }}
  command: {{ entity.set }}
  words: [{{ entity.words | join: ", " }}]
  state: {{ entity.state }}
{% endfor %}`

const WIRING_CHECKLIST = `Wiring checklist, {{ site.name }} ({{ site.volts }} V, {{ site.hertz }} Hz)
{% for controller in controllers %}
== {{ controller.name }} ==
{% for line in controller.cautions %}! {{ line }}
{% endfor %}{% for wire in controller.connections %}[ ] {{ wire.device }}: {{ wire.from }} to {{ wire.to }}{% if wire.colour != "" %} ({{ wire.colour }}){% endif %}{% if wire.mains %}  MAINS{% endif %}
{% endfor %}{% endfor %}`

/** Three examples to begin with. */
export const EXAMPLE_TEMPLATES: readonly Template[] = [
  { id: 'point-table' as TemplateId, name: 'Point table', fileName: 'points.txt', text: POINT_TABLE },
  { id: 'hub-list' as TemplateId, name: 'Hub list', fileName: 'hub-list.yaml', text: HUB_LIST },
  { id: 'wiring-checklist' as TemplateId, name: 'Wiring checklist', fileName: 'checklist.txt', text: WIRING_CHECKLIST },
]
