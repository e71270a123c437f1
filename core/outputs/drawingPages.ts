import type { Circuit, Device, Net, Terminal } from '../wiring'
import { isLine, wiringSvg, type Layout } from './drawing'

/**
 * A large circuit on two pages: what is wired at low voltage, and, on a page of its own with its cautions, contacts and
 * loads. A net that goes over both ends in stubs of one name on each.
 */

/** More devices than these are too small to be read on one page of A4. */
const MOST_DEVICES = 16

const AT_LOADS: readonly Device['kind'][] = ['load', 'contactor', 'house', 'fuse']
const ON_BOTH: readonly Device['kind'][] = ['board', 'relay-module', 'relay']
const isContact = (device: Device | undefined, pin: string): boolean =>
  (device?.kind === 'relay-module' || device?.kind === 'relay') && /(COM|NO|NC)$/.test(pin)

/** Whether each terminal stands on the page of contacts and loads. */
function atLoads({ devices, nets }: Circuit): (net: Net, terminal: Terminal) => boolean {
  const by = new Map(devices.map((device) => [device.ref, device]))
  const isThere = (net: Net): boolean =>
    net.class === 'mains' ||
    (isLine(net) &&
      net.nodes.some(({ ref, pin }) => isContact(by.get(ref), pin) || AT_LOADS.includes(by.get(ref)!.kind)))
  const there = new Set(devices.filter(({ kind }) => AT_LOADS.includes(kind)).map(({ ref }) => ref))
  // what hangs on such a net goes along: a snubber, the supply of a load
  for (const net of nets.filter(isThere))
    for (const { ref } of net.nodes) if (!ON_BOTH.includes(by.get(ref)!.kind)) there.add(ref)
  for (const net of nets)
    if (net.nodes.some(({ ref }) => by.get(ref)!.kind === 'load'))
      for (const { ref } of net.nodes) if (by.get(ref)!.kind === 'supply' && ownSupply(net)) there.add(ref)
  return (net, { ref, pin }) => isThere(net) || there.has(ref) || isContact(by.get(ref), pin)
}

/** A load's own supply has nets of its own name, G2 +; the controller's rails have names of theirs. */
const ownSupply = ({ name }: Net): boolean => /^G\d+ /.test(name)

/** The circuit as its pages, each a circuit of those devices and ends that stand on it. */
export function pagesOf(circuit: Circuit): readonly { readonly name: string; readonly circuit: Circuit }[] {
  if (circuit.devices.length <= MOST_DEVICES) return [{ name: '', circuit }]
  const there = atLoads(circuit)
  const page = (loads: boolean): Circuit => {
    const nets = circuit.nets.flatMap((net) => {
      const nodes = net.nodes.filter((node) => there(net, node) === loads)
      return nodes.length > 0 ? [{ ...net, nodes }] : []
    })
    const refs = new Set(nets.flatMap(({ nodes }) => nodes.map(({ ref }) => ref)))
    return { ...circuit, nets, devices: circuit.devices.filter(({ ref }) => refs.has(ref)) }
  }
  const pages = [
    { name: 'supply, board, switches and parts', circuit: page(false) },
    { name: 'contacts and loads', circuit: page(true) },
  ].filter((one) => one.circuit.devices.length > 0)
  return pages.length > 1 ? pages : [{ name: '', circuit }]
}

/** Each page drawn, with its number; the cautions stand on all. */
export async function wiringPages(
  circuit: Circuit,
  title: string,
  cautions: readonly string[],
  elk: Layout,
): Promise<string[]> {
  const pages = pagesOf(circuit)
  // how a net is drawn is said by the whole of it: what ends in stubs on one page does so on the other
  const lines = new Set(circuit.nets.filter(isLine).map(({ name }) => name))
  const drawn: string[] = []
  for (const [at, { name, circuit: one }] of pages.entries()) {
    const head = pages.length > 1 ? `${title}, page ${at + 1} of ${pages.length}: ${name}` : title
    drawn.push(await wiringSvg(one, head, cautions, elk, ({ name: net }) => lines.has(net)))
  }
  return drawn
}
