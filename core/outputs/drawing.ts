import { channelOf, type Site } from '../site'
import type { ElkExtendedEdge, ElkNode, ElkPort } from 'elkjs/lib/elk-api'
import type { Circuit, Device, Net } from '../wiring'
import { wrapped } from './codeLabel'

/** The wiring drawing: laid out by ELK, drawn with our own symbols, black on white for the printer and the bench. */

/** What lays a graph out; elkjs is given by the caller, since it is large and comes only when it is asked for. */
export interface Layout {
  layout(graph: ElkNode): Promise<ElkNode>
}

const CHAR = 6.6
const ROW = 20
const HEAD = 34
const STUB = 26

/** Parts through which something runs: in at one side, out at the other. */
const TWO_ENDED: readonly Device['kind'][] = ['fuse', 'contactor', 'capacitor', 'resistor']

/** On which side of its device a pin stands, so that the drawing reads from hands to loads. */
function sideOf(device: Device, pin: string, net: Net): 'WEST' | 'EAST' {
  if (device.kind === 'board')
    return net.class === 'signal' && net.name.startsWith('in ') ? 'WEST' : net.class === 'signal' ? 'EAST' : 'WEST'
  if (device.kind === 'relay-module' || device.kind === 'relay') return /COM|NO|NC/.test(pin) ? 'EAST' : 'WEST'
  if (device.kind === 'switch') return pin === '1' || pin.startsWith('bit') ? 'EAST' : 'WEST'
  if (device.kind === 'supply') return pin === 'in' ? 'WEST' : 'EAST'
  if (device.kind === 'house') return /in$/.test(pin) ? 'WEST' : 'EAST'
  return TWO_ENDED.includes(device.kind) && pin === '2' ? 'EAST' : 'WEST'
}

/** Nets drawn as lines; the others end in a labelled stub at each pin, as rails do on any drawing. */
export const isLine = ({ class: kind, name, nodes }: Net): boolean =>
  kind === 'signal' || name.startsWith('switched ') || (kind === 'mains' && nodes.length <= SHORT)
/** So few ends are easier to follow as lines than as names. */
const SHORT = 3

interface PinPlace {
  readonly pin: string
  readonly net: Net
  readonly side: 'WEST' | 'EAST'
}

/** COM, NO, NC of the first relay, then of the second. */
function contactOrder(pin: string): number {
  const [, relay, contact] = /^(?:K(\d+) )?(COM|NO|NC)$/.exec(pin) ?? []
  return Number(relay ?? 0) * 3 + ['COM', 'NO', 'NC'].indexOf(contact ?? '')
}

const UNJOINED: Net = { name: '', class: 'signal', nodes: [] }

function pinsOf(device: Device, nets: readonly Net[]): PinPlace[] {
  const joined = nets.flatMap((net) =>
    net.nodes
      .filter((node) => node.ref === device.ref)
      .map(({ pin }) => ({ pin, net, side: sideOf(device, pin, net) })),
  )
  // each relay shows all three of its contacts; one on which nothing hangs is drawn as a bare end
  const relays = device.kind === 'relay-module' || device.kind === 'relay'
  const coms = relays ? joined.flatMap(({ pin }) => /^(.*)COM$/.exec(pin)?.[1] ?? []) : []
  const bare = coms
    .flatMap((relay) => [`${relay}NO`, `${relay}NC`])
    .filter((pin) => !joined.some((one) => one.pin === pin))
    .map((pin): PinPlace => ({ pin, net: UNJOINED, side: 'EAST' }))
  const contacts = [...joined.filter(({ side }) => side === 'EAST'), ...bare]
  if (relays) contacts.sort((a, b) => contactOrder(a.pin) - contactOrder(b.pin))
  return [...joined.filter(({ side }) => side === 'WEST'), ...contacts]
}

const portId = (ref: string, pin: string): string => `${ref}|${pin}`

/** A device as a box with its pins as ports, wide and high enough for what is written in it. */
function boxOf(device: Device, nets: readonly Net[]): ElkNode {
  const pins = pinsOf(device, nets)
  const on = (side: PinPlace['side']) => pins.filter((place) => place.side === side)
  const widest = (side: PinPlace['side']) => Math.max(0, ...on(side).map((place) => place.pin.length))
  const width = Math.max(
    device.title.length * CHAR + (device.kind === 'load' ? 44 : 24),
    ...device.notes.map((note) => note.length * 5.6 + 16),
    (widest('WEST') + widest('EAST')) * CHAR + 40,
    90,
  )
  const rows = Math.max(on('WEST').length, on('EAST').length, 1)
  const ports = (['WEST', 'EAST'] as const).flatMap((side) =>
    on(side).map((place, row): ElkPort => ({
      id: portId(device.ref, place.pin),
      width: 1,
      height: 1,
      x: side === 'WEST' ? -1 : width,
      y: HEAD + row * ROW + ROW / 2,
      layoutOptions: { 'elk.port.side': side },
    })),
  )
  const height = HEAD + rows * ROW + 6 + device.notes.length * 13
  return { id: device.ref, width, height, ports, layoutOptions: { 'elk.portConstraints': 'FIXED_POS' } }
}

/** A net as lines from one of its pins: the board, or the relay's contact, is where a line begins. */
function linesOf(net: Net): ElkExtendedEdge[] {
  const begins = ({ ref, pin }: Net['nodes'][number]) => /^U/.test(ref) || /\b(NO|NC)$/.test(pin)
  // else anywhere but at the load, where it ends
  const from = net.nodes.find(begins) ?? net.nodes.find(({ ref }) => !/^E\d/.test(ref)) ?? net.nodes[0]!
  return net.nodes
    .filter((node) => node !== from)
    .map((node, i) => {
      const [source, target] = net.name.startsWith('in ') ? [node, from] : [from, node]
      return {
        id: `${net.name}#${i}`,
        sources: [portId(source.ref, source.pin)],
        targets: [portId(target.ref, target.pin)],
      }
    })
}

/** From above: what comes from the house, the supplies, then what they feed. */
const FIRST: readonly Device['kind'][] = ['house', 'fuse', 'supply']
const inFlow = (devices: readonly Device[]): Device[] => [
  ...FIRST.flatMap((kind) => devices.filter((device) => device.kind === kind)),
  ...devices.filter(({ kind }) => !FIRST.includes(kind)),
]

/** The graph for the layout: devices with their pins as ports, lines as edges. */
export const wiringGraph = ({ devices, nets }: Circuit, asLine: (net: Net) => boolean = isLine): ElkNode => ({
  id: 'wiring',
  children: inFlow(devices).map((device) => boxOf(device, nets)),
  edges: nets.filter(asLine).flatMap(linesOf),
  layoutOptions: {
    'elk.algorithm': 'layered',
    'elk.direction': 'RIGHT',
    'elk.edgeRouting': 'ORTHOGONAL',
    'elk.layered.spacing.nodeNodeBetweenLayers': '110',
    // stubs and their labels stand outside of the boxes: lines and neighbours keep that far away
    'elk.layered.spacing.edgeNodeBetweenLayers': String(STUB + 64),
    'elk.spacing.nodeNode': '26',
    // what hangs on rails alone stands in line with the rest, not in an empty quarter of its own
    'elk.separateConnectedComponents': 'false',
    'elk.layered.considerModelOrder.strategy': 'PREFER_NODES',
    'elk.padding': '[top=40,left=120,bottom=40,right=120]',
  },
})

const escape = (text: string): string =>
  text.replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c]!)

const text = (x: number, y: number, words: string, more = ''): string =>
  `<text x="${x.toFixed(1)}" y="${y.toFixed(1)}" ${more}>${escape(words)}</text>`

const STYLE = `<style>
text{font:12px 'Atkinson Hyperlegible Next Variable',sans-serif;fill:#000}
.title{font-weight:700;font-size:15px}.ref{font-weight:700}.small{font-size:10.5px}.pin{font-family:'Atkinson Hyperlegible Mono Variable',monospace;font-size:11px}
.box{fill:#fff;stroke:#000;stroke-width:1.4}.line{fill:none;stroke:#000;stroke-width:1.2}.mains{fill:none;stroke:#000;stroke-width:2.4;stroke-dasharray:7 3}.stub{stroke:#000;stroke-width:1.2}
</style>`

function lineSvg(edge: ElkExtendedEdge, mains: boolean, net: string): string {
  const path = (edge.sections ?? [])
    .map((section) =>
      [section.startPoint, ...(section.bendPoints ?? []), section.endPoint]
        .map((p, i) => `${i ? 'L' : 'M'}${p.x.toFixed(1)} ${p.y.toFixed(1)}`)
        .join(''),
    )
    .join('')
  return `<path d="${path}" class="${mains ? 'mains' : 'line'}" ${ofNet(net)}/>`
}

/** A page that shows the drawing can find a net, or a part, by its name. */
const ofNet = (name: string): string => `data-net="${escape(name)}"`

/** Lays a netlist out and draws it as SVG. `cautions` stand at its head; `asLine`: which nets are drawn as lines. */
export async function wiringSvg(
  circuit: Circuit,
  title: string,
  cautions: readonly string[],
  elk: Layout,
  asLine: (net: Net) => boolean = isLine,
): Promise<string> {
  const placed = await elk.layout(wiringGraph(circuit, asLine))
  const width = Math.max(760, placed.width ?? 0)
  const head = 30 + cautions.length * 16
  const height = (placed.height ?? 0) + head
  const nets = new Map(circuit.nets.map((net) => [net.name, net]))
  const edges = (placed.edges ?? []).map((edge) => {
    const net = edge.id.split('#')[0]!
    return lineSvg(edge, nets.get(net)?.class === 'mains', net)
  })
  const devices = (placed.children ?? []).map((node) =>
    deviceSvg(
      node,
      circuit.devices.find((device) => device.ref === node.id)!,
      circuit.nets,
      asLine,
    ),
  )
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width.toFixed(0)} ${height.toFixed(0)}" role="img" aria-label="${escape(`Wiring of ${title}`)}">
${STYLE}
<rect width="100%" height="100%" fill="#fff"/>
${text(16, 24, title, 'class="title"')}
${cautions.map((line, i) => text(16, 44 + i * 16, line, 'class="small"')).join('\n')}
<g transform="translate(0 ${head})">
${edges.join('\n')}
${devices.join('\n')}
</g>
</svg>
`
}

function deviceSvg(node: ElkNode, device: Device, nets: readonly Net[], asLine: (net: Net) => boolean): string {
  const [x, y, w, h] = [node.x ?? 0, node.y ?? 0, node.width ?? 0, node.height ?? 0]
  const round = device.kind === 'load' ? 14 : device.kind === 'switch' ? 8 : 1
  const pins = pinsOf(device, nets).map(({ pin, net, side }) => {
    const port = node.ports!.find((one) => one.id === portId(device.ref, pin))!
    const px = x + (side === 'WEST' ? 0 : w)
    const py = y + (port.y ?? 0) + 0.5
    const inside =
      side === 'WEST'
        ? text(px + 6, py + 4, pin, 'class="pin"')
        : text(px - 6, py + 4, pin, 'class="pin" text-anchor="end"')
    if (net !== UNJOINED && asLine(net)) return inside
    if (net === UNJOINED)
      return `${inside}<path d="M${px} ${py}h7" class="stub"/><circle cx="${px + 9}" cy="${py}" r="2" class="box"/>`
    const end = px + (side === 'WEST' ? -STUB : STUB)
    const rail =
      net.class === 'ground'
        ? `<path d="M${end} ${py - 6}v12M${end + (side === 'WEST' ? -3 : 3)} ${py - 4}v8" class="stub"/>`
        : ''
    const label = text(
      end + (side === 'WEST' ? -5 : 5),
      py + 4,
      net.name,
      `class="small" text-anchor="${side === 'WEST' ? 'end' : 'start'}"`,
    )
    return (
      `${inside}<g ${ofNet(net.name)}><path d="M${px} ${py}H${end}" ` +
      `class="${net.class === 'mains' ? 'mains' : 'stub'}"/>${rail}${net.class === 'ground' ? '' : label}</g>`
    )
  })
  const notes = device.notes.map((note, i) =>
    text(x + 8, y + h - 6 - (device.notes.length - 1 - i) * 13, note, 'class="small"'),
  )
  const ground = device.kind === 'load' ? symbolOf(x + w - 22, y + 17) : ''
  return (
    `<g data-ref="${escape(device.ref)}"><rect x="${x}" y="${y}" width="${w}" height="${h}" rx="${round}" ` +
    `class="box"/>${text(x + 8, y + 15, device.ref, 'class="ref"')}${device.title === device.ref ? '' : text(x + 8, y + 28, device.title, 'class="small"')}${ground}${notes.join('')}</g>${pins.join('')}`
  )
}

/** A load: a circle with a cross, as lamps are drawn. */
const symbolOf = (cx: number, cy: number): string =>
  `<circle cx="${cx}" cy="${cy}" r="8" class="box"/><path d="M${cx - 5.6} ${cy - 5.6}l11.2 ` +
  `11.2M${cx + 5.6} ${cy - 5.6}l-11.2 11.2" class="line"/>`

/** What stands on the labels: each contact, switch, contactor, fuse and supply by its one name, and what it works. */
export function labelsOf(
  site: Site,
  { devices, contacts }: Circuit,
): { readonly ref: string; readonly name: string }[] {
  const works = (input: string): string =>
    site.ways
      .flatMap((way) => (way.kind === 'wall' && way.input === input ? [channelOf(site, way.channel)!.name] : []))
      .join(', ')
  return [
    ...contacts,
    ...devices.flatMap(({ ref, kind, title, input }) => {
      if (input !== undefined) return [{ ref, name: works(input) || title }]
      return kind === 'contactor' || kind === 'fuse' || kind === 'supply' ? [{ ref, name: title }] : []
    }),
  ]
}

/** What is within the lines of a label, mm, and the letters that find room there in its two sizes. */
const LABEL_WIDE = 30
const LARGE = { letters: 16, size: 3.2, rows: [9.6] } as const
const SMALL = { letters: 20, size: 2.7, rows: [8, 11] }

/** A name on its label: whole, in two rows where one is too short, set closer where two are. */
function labelWords(name: string, x: number, y: number): string {
  const { letters, size, rows } = name.length <= LARGE.letters ? LARGE : SMALL
  const [first = '', ...more] = wrapped(name, letters)
  const lines = more.length === 0 ? [first] : [first, more.join(' ')]
  return lines
    .map((line, at) => {
      const closer = line.length > letters ? ` textLength="${LABEL_WIDE}" lengthAdjust="spacingAndGlyphs"` : ''
      return `<text x="${x}" y="${y + (lines.length === 1 ? LARGE.rows[0] : rows[at]!)}" font-size="${size}"${closer}>${escape(line)}</text>`
    })
    .join('')
}

/** A strip of labels for relays and switches, 12 mm high, to be cut out; millimetres. */
export function labelStrip(names: readonly { readonly ref: string; readonly name: string }[]): string {
  const width = 34
  const perRow = 5
  const rows = Math.ceil(names.length / perRow)
  const labels = names.map(({ ref, name }, i) => {
    const x = (i % perRow) * width
    const y = Math.floor(i / perRow) * 12
    return (
      `<rect x="${x}" y="${y}" width="${width}" height="12" fill="#fff" stroke="#000" ` +
      `stroke-width="0.2"/><text x="${x + 2}" y="${y + 5}" font-size="3.6" ` +
      `font-weight="700">${escape(ref)}</text>${labelWords(name, x + 2, y)}`
    )
  })
  return (
    `<svg xmlns="http://www.w3.org/2000/svg" width="${perRow * width}mm" height="${rows * 12}mm" ` +
    `viewBox="0 0 ${perRow * width} ${rows * 12}" font-family="sans-serif" role="img" aria-label="Label ` +
    `strip">${labels.join('')}</svg>\n`
  )
}
