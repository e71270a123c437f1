import {
  COMMISSIONING_WIRE,
  DATAPOINT_WIRE,
  DEVICE_FILE_WIRE,
  PROVISIONED_WIRE,
  ROOM_STORE_WIRE,
  VARIABLE_WIRE,
  VOICE_BRIDGE_WIRE,
  WEB_HOOK_WIRE,
} from './shippedWires'
import { plainCopy, type Limits, type Secret, type ServiceProfile, type Site } from '../site'

/**
 * The ten kinds of service that ship. Their limits are those of typical free plans (common practice, no one service's
 * terms): a maker corrects them, and a corrected copy in the site goes before the one that ships.
 */

export const NO_LIMITS: Limits = {
  devices: null,
  points: null,
  widgets: null,
  nameLength: null,
  updateMs: null,
  messagesDay: null,
  messagesMonth: null,
  bytesMonth: null,
}
const secret = (
  id: string,
  label: string,
  per: Secret['per'],
  shape: Secret['shape'],
  more: Partial<Secret> = {},
): Secret => ({ id, label, per, shape, secret: true, shownOnce: false, ...more })
const brokerUser: Secret[] = [
  secret('broker-user', 'Broker user', 'device', 'text', { secret: false }),
  secret('broker-password', 'Broker password', 'device', 'password'),
]

export const SERVICE_KINDS: readonly ServiceProfile[] = [
  {
    id: 'datapoint',
    name: 'datapoint app service',
    family: 'service',
    pointWord: 'virtual pin',
    holds: [
      'board pattern',
      'points with number, type, range and default',
      'an entry with a board key for each controller',
      'widgets on a phone screen',
    ],
    limits: {
      ...NO_LIMITS,
      devices: 2,
      points: 30,
      widgets: 30,
      nameLength: 30,
      updateMs: 100,
      messagesMonth: 100_000,
    },
    reconnect: 'resends held values',
    secrets: [
      secret('board-pattern', 'Board pattern', 'service', 'text', { secret: false }),
      secret('board-key', 'Board key', 'device', 'token'),
    ],
    steps: [
      'Make a board pattern, and note its name',
      'Add one point for each row of the points table: number, type, min, max, default',
      'Make one entry by that pattern for each controller',
      'Copy its board key into Credentials',
      'Arrange the widgets on the phone as the screen under Phone shows',
      'Flash, and see the entry come online',
    ],
    wire: DATAPOINT_WIRE,
  },
  {
    id: 'variable',
    name: 'variable app service',
    family: 'service',
    pointWord: 'variable',
    holds: ['board with an id', 'board key, shown once', 'variables with type and update policy', 'panel'],
    limits: { ...NO_LIMITS, devices: 2, points: 5, nameLength: 40, updateMs: 1_000, messagesDay: 20_000 },
    reconnect: 'resends held values',
    secrets: [
      secret('board-id', 'Board id', 'device', 'token', { secret: false }),
      secret('once-key', 'Board key, shown once', 'device', 'key', { shownOnce: true }),
    ],
    steps: [
      'Add the controller’s board and store its board key at once: it is shown one time only',
      'Copy the board’s id into Credentials',
      'Add one variable for each row of the points table',
      'Set read and write, and update on change',
      'Arrange the panel as the screen under Phone shows',
      'Flash, and see the board come online',
    ],
    wire: VARIABLE_WIRE,
  },
  {
    id: 'room-store',
    name: 'room store',
    family: 'service',
    pointWord: 'key',
    holds: ['key-value tree', 'one branch a room', 'address and store key', 'rules for reading and writing'],
    limits: { ...NO_LIMITS, bytesMonth: 10_000_000_000 },
    reconnect: 'is asked by the controller',
    secrets: [
      secret('host', 'Store address', 'service', 'host', { secret: false }),
      secret('store-key', 'Store key', 'service', 'key'),
    ],
    steps: [
      'Make a store and note its address: the host name only',
      'Make one branch for each room',
      'Close the rules: only signed-in clients read and write',
      'Copy the store key into Credentials',
      'Flash, and see the keys of each room appear',
    ],
    wire: ROOM_STORE_WIRE,
  },
  {
    id: 'provisioned',
    name: 'provisioned device service',
    family: 'service',
    pointWord: 'setting',
    holds: [
      'a board with its channels',
      'settings of each channel',
      'pairing by a QR code over a short range',
      'pairing name and PIN',
    ],
    limits: { ...NO_LIMITS, devices: 5, points: 20, nameLength: 32 },
    reconnect: 'resends held values',
    secrets: [
      secret('pairing-name', 'Pairing name', 'device', 'text', { secret: false }),
      secret('pairing-pin', 'Pairing PIN', 'device', 'pin'),
    ],
    steps: [
      'Choose a pairing name and a PIN of your own for each controller',
      'Flash, and start pairing at the controller, as described below',
      'Scan the pairing code with the phone beside the board',
      'Give the Wi-Fi when asked',
      'Name the channels as the voice table says',
      'Store the pairing code with the box: it is needed after a credential reset',
    ],
    wire: PROVISIONED_WIRE,
  },
  {
    id: 'voice-bridge',
    name: 'voice bridge',
    family: 'voice',
    pointWord: 'device id',
    holds: ['an id for each lamp', 'account key and signing key', 'spoken names and rooms'],
    limits: { ...NO_LIMITS, devices: 3, nameLength: 40 },
    reconnect: 'sends nothing',
    secrets: [
      secret('account-key', 'Account key', 'service', 'key'),
      secret('signing-key', 'Signing key', 'service', 'key', { shownOnce: true }),
    ],
    steps: [
      'Make one id for each row of the voice table, and copy it into the table',
      'Copy the account key, and the signing key while it is shown, into Credentials',
      'Link the bridge to the voice service',
      'Start the device search of the voice service',
      'Assign each device to its room',
      'Say each phrase of the voice table once',
    ],
    wire: VOICE_BRIDGE_WIRE,
  },
  {
    id: 'broker',
    name: 'local hub over a message broker',
    family: 'hub',
    pointWord: 'entity',
    holds: ['entities with topics', 'a user for each controller'],
    limits: NO_LIMITS,
    reconnect: 'sends nothing',
    secrets: [secret('host', 'Broker host', 'service', 'host', { secret: false }), ...brokerUser],
    steps: [
      'Make a broker user for each controller with rights on its own topics only',
      'Give the hub a user of its own',
      'Import the hub file',
      'Turn on the hub’s heartbeat',
      'Flash, and see status go online',
    ],
    wire: { transport: 'own' },
  },
  {
    id: 'device-file',
    name: 'local hub with device file',
    family: 'hub',
    pointWord: 'entity',
    holds: ['one YAML file for each controller', 'a secrets file apart'],
    limits: NO_LIMITS,
    reconnect: 'is asked by the controller',
    secrets: [
      secret('hub-key', 'Key between hub and controller', 'device', 'key'),
      secret('update-password', 'Update password', 'device', 'password'),
    ],
    steps: [
      'Put the hub file in the hub’s folder',
      'Put the values of the secrets into the secrets file beside it',
      'Let the hub check the file',
      'Flash, and see the entities appear',
    ],
    wire: DEVICE_FILE_WIRE,
  },
  {
    id: 'commissioning',
    name: 'local commissioning',
    family: 'hub',
    pointWord: 'endpoint',
    holds: ['setup code, shown as a QR code', 'endpoints with a device type'],
    limits: { ...NO_LIMITS, devices: 5, points: 16 },
    reconnect: 'is asked by the controller',
    secrets: [secret('setup-code', 'Setup code', 'device', 'pin')],
    steps: [
      'Flash: the board is ready to be commissioned',
      'Scan its setup code with the phone',
      'Choose the room',
      'Check each endpoint’s type against the table',
      'Store the setup code with the board',
    ],
    wire: COMMISSIONING_WIRE,
  },
  {
    id: 'mesh',
    name: 'mesh hub',
    family: 'hub',
    pointWord: 'child device',
    holds: ['a parent device for the controller', 'a child device for each channel', 'a parameter for the switch type'],
    limits: { ...NO_LIMITS, devices: 100, nameLength: 40 },
    reconnect: 'is asked by the controller',
    secrets: [secret('network-key', 'Network key', 'service', 'key')],
    steps: [
      'Start joining mode on the hub',
      'Power the board: the parent joins',
      'See one child for each channel',
      'Set the switch type parameter of each child',
      'Name the children as the table says',
    ],
  },
  {
    id: 'web-hook',
    name: 'web-hook bridge',
    family: 'service',
    pointWord: 'address',
    holds: ['HTTP addresses on the controller', 'a key in each call'],
    limits: { ...NO_LIMITS, messagesDay: 750 },
    reconnect: 'sends nothing',
    secrets: [
      secret('host', 'Address of the bridge', 'service', 'host', { secret: false }),
      secret('call-key', 'Key of the calls', 'device', 'key'),
    ],
    steps: [
      'Give the controller a fixed address in the local network',
      'Make one hook for each row of the points table',
      'Put the key in each call',
      'Call each once from inside the network',
      'Never forward a router port to it',
    ],
    wire: WEB_HOOK_WIRE,
  },
]

/** The kind with this id: the site's own copy, else the one that ships. */
export const serviceKindIn = (site: Site, id: string): ServiceProfile | undefined =>
  site.profiles.services.find((kind) => kind.id === id) ?? SERVICE_KINDS.find((kind) => kind.id === id)

/** All kinds of a site, its own copies in place of those that ship, the maker's additions last. */
export function serviceKindsOf(site: Site): ServiceProfile[] {
  const own = new Map(site.profiles.services.map((kind) => [kind.id, kind]))
  return [
    ...SERVICE_KINDS.map((kind) => own.get(kind.id) ?? kind),
    ...site.profiles.services.filter((kind) => !SERVICE_KINDS.some((shipped) => shipped.id === kind.id)),
  ]
}

/** Keeps a corrected kind in the site. Changes a draft. */
export function keepServiceKind(site: Site, kind: ServiceProfile): void {
  const at = site.profiles.services.findIndex((candidate) => candidate.id === kind.id)
  if (at < 0) site.profiles.services.push(plainCopy(kind))
  else site.profiles.services[at] = plainCopy(kind)
}

export const familyOf = (site: Site, kind: string): ServiceProfile['family'] =>
  serviceKindIn(site, kind)?.family ?? 'service'
