import type { Conductor } from './wireColours'

/**
 * One controller with everything that is joined to it: parts with terminals, and the wires between them. The connection
 * list, the drawing, the netlist, the parts list and the labels are all read from it, so they cannot say different
 * things.
 */

export type DeviceKind =
  | 'board'
  | 'relay-module'
  | 'relay'
  | 'contactor'
  | 'part'
  | 'switch'
  | 'resistor'
  | 'capacitor'
  | 'diode'
  | 'transistor'
  | 'snubber'
  | 'varistor'
  | 'level-shifter'
  | 'fuse'
  | 'supply'
  | 'load'
  /** the house's own: breaker, residual-current device, the point where mains comes in */
  | 'house'

export interface Device {
  /** the one name that it has on every page: U1, K1, S1, R1 … */
  readonly ref: string
  readonly kind: DeviceKind
  readonly title: string
  /** what it is, for the parts list */
  readonly type: string
  readonly notes: readonly string[]
  /** id of the switch that it is, where it is one */
  readonly input?: string
}

export interface Terminal {
  readonly ref: string
  readonly pin: string
}

export type NetClass = 'ground' | 'supply' | 'signal' | 'mains'

export interface Net {
  readonly name: string
  readonly class: NetClass
  readonly nodes: readonly Terminal[]
}

export interface Wire {
  /** what is being wired: the heading under which it stands in the list */
  readonly under: string
  readonly net: string
  readonly from: Terminal
  readonly to: Terminal
  /** null: no colour can be said */
  readonly conductor: Conductor | null
  readonly note: string
  readonly mains: boolean
  /** the role whose pin is at its end, where one is */
  readonly role: string | null
}

export interface Circuit {
  readonly controller: string
  readonly devices: readonly Device[]
  readonly wires: readonly Wire[]
  readonly nets: readonly Net[]
  /** the contacts by what is printed at them, and what each works: K1 "Desk lamp" */
  readonly contacts: readonly { readonly ref: string; readonly name: string }[]
  /** the controller on whose parts list all of it stands; null: on its own */
  readonly partOf: string | null
}

/** What a wire says besides its ends. */
export type WireWords = Partial<Pick<Wire, 'note' | 'mains' | 'role'>>

const LOW_VOLTAGE: readonly Conductor[] = ['logic-supply', 'coil-supply', 'ground', 'signal']

const keyOf = ({ ref, pin }: Terminal): string => `${ref}\n${pin}`

/** Grows a circuit wire by wire; nets follow from the wires, so a terminal stands in one net only. */
export class CircuitBuilder {
  private readonly devices: Device[] = []
  private readonly wires: Wire[] = []
  private readonly nets = new Map<string, { class: NetClass; nodes: Terminal[] }>()
  private readonly netAt = new Map<string, string>()
  private readonly taken = new Set<string>()
  private readonly reserved = new Set<string>()
  private readonly contacts: { ref: string; name: string }[] = []
  private heading = ''
  /** everything stands at mains potential, as inside a box that is not isolated */
  private live = false

  /** `wish`: a name that somebody has given it, kept where it is free. */
  device(
    letters: string,
    kind: DeviceKind,
    title: string,
    type: string,
    more: { notes?: string[]; wish?: string; input?: string } = {},
  ) {
    const { notes = [], wish, input } = more
    let ref = wish !== undefined && !this.taken.has(wish) ? wish : ''
    for (let number = 1; ref === ''; number++) {
      const next = `${letters}${number}`
      if (!this.taken.has(next) && !this.reserved.has(next)) ref = next
    }
    this.taken.add(ref)
    this.devices.push({ ref, kind, title, type, notes, ...(input === undefined ? {} : { input }) })
    return ref
  }

  /** Keeps a name for a thing that comes later with a wish for it. */
  reserve(ref: string): void {
    this.reserved.add(ref)
  }

  contact(ref: string, name: string): void {
    this.contacts.push({ ref, name })
  }

  allLive(): void {
    this.live = true
  }

  under(heading: string): void {
    this.heading = heading
  }

  netOf(terminal: Terminal): string | undefined {
    return this.netAt.get(keyOf(terminal))
  }

  private place(name: string, netClass: NetClass, terminal: Terminal): void {
    const key = keyOf(terminal)
    if (this.netAt.get(key) === name) return
    this.netAt.set(key, name)
    const net = this.nets.get(name) ?? { class: netClass, nodes: [] }
    this.nets.set(name, net)
    net.nodes.push(terminal)
  }

  /** Two nets that a wire joins are one from then on, under the name of the first: what is soldered together is. */
  private merge(into: string, name: string): void {
    const net = this.nets.get(name)!
    this.nets.delete(name)
    for (const node of net.nodes) this.place(into, net.class, node)
    for (const [index, wire] of this.wires.entries()) if (wire.net === name) this.wires[index] = { ...wire, net: into }
  }

  /** Nets are joined by wires alone: two that would have one name get two. */
  private freshNet(name: string): string {
    for (let number = 1; ; number++) {
      const wish = number === 1 ? name : `${name} ${number}`
      if (!this.nets.has(wish)) return wish
    }
  }

  /** A wire; it belongs to the net of one of its ends where that has one, else to a new one that `net` names. */
  wire(
    net: readonly [name: string, netClass: NetClass],
    from: Terminal,
    to: Terminal,
    conductor: Conductor | null,
    { note = '', mains = false, role = null }: WireWords = {},
  ): void {
    const name = this.netOf(from) ?? this.netOf(to) ?? this.freshNet(net[0])
    const netClass = this.nets.get(name)?.class ?? net[1]
    this.place(name, netClass, from)
    const there = this.netOf(to)
    if (there !== undefined && there !== name) this.merge(name, there)
    this.place(name, netClass, to)
    // no colour of low voltage in a box that is not isolated
    const colour = this.live && conductor !== null && LOW_VOLTAGE.includes(conductor) ? null : conductor
    const wire = { under: this.heading, net: name, from, to, note, role }
    this.wires.push({ ...wire, conductor: colour, mains: mains || this.live })
  }

  done(controller: string): Circuit {
    const nets = [...this.nets].map(([name, net]) => ({ name, ...net }))
    const { devices, wires, contacts } = this
    return { controller, devices, wires, nets, contacts, partOf: null }
  }
}
