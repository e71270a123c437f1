/** What is joined to what: wires, their colours, the netlist, and how a selector is wired for its levels. */
export { connectionsOf, type Connection } from './connections'
export { netlistOf, type Device, type DeviceKind, type Net, type NetClass, type Netlist } from './netlist'
export { wireColour, type Conductor } from './wireColours'
export { forbiddenPatterns, readSelector, smallestRewiring, type Rewiring, type SelectorReading } from './fan'
export { solderedRoles, wireKey } from './soldered'
