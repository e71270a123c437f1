import Papa from 'papaparse'
import Elk from 'elkjs/lib/elk.bundled.js'
import { circuitOf } from '../wiring'
import type { Site } from '../site'
import { connectionsCsv, netlistText, partsCsv, wiringPages, wiringSvg } from '.'

/**
 * Reads the pages back as a person does who knows nothing of the program: rows of the list, brackets of the netlist,
 * and of the drawing the places where lines end. Each reader gives nets as sorted lists of terminals, "A1 IN1".
 */

export type Nets = readonly (readonly string[])[]

/** Things that are joined, from the joints between them. */
class Joined {
  private readonly over = new Map<string, string>()
  private find(one: string): string {
    const next = this.over.get(one)
    return next === undefined || next === one ? one : this.find(next)
  }
  join(one: string, other: string): void {
    for (const each of [one, other]) if (!this.over.has(each)) this.over.set(each, each)
    this.over.set(this.find(one), this.find(other))
  }
  /** `counts`: what is a terminal, and not only the name of a rail */
  nets(counts: (name: string) => boolean = () => true): Nets {
    const groups = new Map<string, string[]>()
    for (const one of this.over.keys()) {
      const root = this.find(one)
      groups.set(root, [...(groups.get(root) ?? []), ...(counts(one) ? [one] : [])])
    }
    return sorted([...groups.values()])
  }
}
const sorted = (nets: readonly string[][]): Nets =>
  nets.map((net) => [...net].sort()).sort((a, b) => (a[0]! < b[0]! ? -1 : 1))

const csv = (text: string): Record<string, string>[] =>
  Papa.parse<Record<string, string>>(text, { header: true, skipEmptyLines: true }).data

export function netsOfList(site: Site, controller: string): Nets {
  const joined = new Joined()
  // a spreadsheet's guard may stand before a cell
  for (const { from, to } of csv(connectionsCsv(site, controller)) as { from: string; to: string }[])
    if (from) joined.join(from, to)
  return joined.nets()
}

export function netsOfNetlist(site: Site, controller: string): Nets {
  const nets = netlistText(circuitOf(site, controller)).split('(net (name').slice(1)
  return sorted(
    nets.map((net) => [...net.matchAll(/\(node "([^"]*)" "([^"]*)"\)/g)].map(([, ref, pin]) => `${ref} ${pin}`)),
  )
}

export const partsOf = (site: Site, controller: string): string[] =>
  csv(partsCsv(circuitOf(site, controller)))
    .flatMap((row) => row['references']!.split(' '))
    .sort()

const unescape = (text: string): string =>
  text.replace(/&(amp|lt|gt|quot);/g, (_, name: string) => ({ amp: '&', lt: '<', gt: '>', quot: '"' })[name]!)

interface Place {
  readonly x: number
  readonly y: number
}

/** What stands in the drawing, by its shapes alone. */
export async function netsOfDrawing(site: Site, controller: string): Promise<{ nets: Nets; refs: string[] }> {
  return netsOfSvg([await wiringSvg(circuitOf(site, controller), 'Test', [], new Elk())])
}

/** The same of a drawing that goes over several pages. */
export async function netsOfPages(
  site: Site,
  controller: string,
): Promise<{ nets: Nets; refs: string[]; pages: number }> {
  const pages = await wiringPages(circuitOf(site, controller), 'Test', [], new Elk())
  return { ...netsOfSvg(pages), pages: pages.length }
}

function netsOfSvg(pages: readonly string[]): { nets: Nets; refs: string[] } {
  const joined = new Joined()
  const refs = new Set(pages.flatMap((svg) => readPage(svg, joined)))
  return { nets: joined.nets((name) => !name.startsWith('rail ')), refs: [...refs].sort() }
}

/** Joins what one page joins; gives the things that stand on it. */
function readPage(svg: string, joined: Joined): string[] {
  const boxes = [
    ...svg.matchAll(
      /<rect x="([\d.]+)" y="([\d.]+)" width="([\d.]+)" height="([\d.]+)"[^>]*class="box"\/><text[^>]*class="ref">([^<]*)</g,
    ),
  ].map(([, x, y, w, h, ref]) => ({ x: Number(x), y: Number(y), w: Number(w), h: Number(h), ref: unescape(ref!) }))
  const boxAt = ({ x, y }: Place) =>
    boxes.find((box) => (Math.abs(x - box.x) < 2 || Math.abs(x - box.x - box.w) < 2) && y > box.y && y < box.y + box.h)
  const pins = [...svg.matchAll(/<text x="([-\d.]+)" y="([-\d.]+)" class="pin"( text-anchor="end")?>([^<]*)</g)].map(
    ([, x, y, right, name]) => {
      const place = { x: Number(x) + (right ? 6 : -6), y: Number(y) - 4 }
      return { place, name: `${boxAt(place)!.ref} ${unescape(name!)}` }
    },
  )
  const pinAt = (place: Place) =>
    pins.find((pin) => Math.abs(pin.place.x - place.x) < 4 && Math.abs(pin.place.y - place.y) < 4)!.name
  for (const [, path] of svg.matchAll(/<path d="(M[-\d. L]+)" class="(?:line|mains)" data-net="[^"]*"\/>/g)) {
    const points = [...path!.matchAll(/[ML]([-\d.]+) ([-\d.]+)/g)].map(([, x, y]) => ({ x: Number(x), y: Number(y) }))
    if (/^M[^L]+L[^L]+M/.test(path!)) continue
    joined.join(pinAt(points[0]!), pinAt(points.at(-1)!))
  }
  const stub =
    /<path d="M([-\d.]+) ([-\d.]+)H[-\d.]+" class="(?:stub|mains)"\/>(<path [^>]*>)?(?:<text[^>]*class="small"[^>]*>([^<]*)<)?/g
  for (const [, x, y, ground, label] of svg.matchAll(stub))
    joined.join(pinAt({ x: Number(x), y: Number(y) }), `rail ${ground ? 'GND' : unescape(label!)}`)
  return boxes.map(({ ref }) => ref)
}
