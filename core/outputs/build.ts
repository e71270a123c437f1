import { boardIn, type Port } from '../boards'
import { NO_PIN, tablesOf, type ControllerImage, type PairRole } from '../image'
import {
  channelOf,
  controllerOf,
  isTooNear,
  longHoldOf,
  modemOf,
  opensAtASpike,
  writeSite,
  type Controller,
  type Site,
} from '../site'
import { imageHeader } from './imageHeader'
import { modemHeader } from './modemHeader'
import { secretsExample } from './secretsFile'
import { hubFiles, hubSecretsExample } from './hubFile'
import { pointsCsv } from './pointsTable'
import { portOf } from './ports'
import { serviceSheet } from './serviceSheet'
import { flashSteps, setupSteps, wiringSheet } from './sheets'
import { connectionsCsv, pinsCsv } from './tables'
import { voiceTable } from './wayTables'
import { wiresHeader } from './wiresHeader'
import { compileWires, hasNetwork, type ControllerWires } from '../wires'

/** A file of a build; `name` is its path inside the build's folder. */
export interface BuildFile {
  readonly name: string
  readonly text: string
}

export interface Build {
  readonly image: ControllerImage
  readonly files: readonly BuildFile[]
}

/** The build cannot be made: what is missing. */
export class BuildRefused extends Error {
  readonly code = 'build-refused'
}

/** All that a board core compiles, side by side in one folder; secrets that are there already stay as they are. */
const SKETCH = `sketch:
	mkdir -p sketch
	cp image.h wires_image.h runtime/* wires/* ports/board-core/*.cpp ports/board-core/*.h sketch/
	if [ -f secrets.h ]; then cp secrets.h sketch/; else cp -n secrets.example.h sketch/secrets.h; fi
`

const makefile = (
  port: Port,
  part: PairRole,
): string => `# \`make host\` gives a program for this machine that plays traces${part === 'mirror' ? ' (`controller trace mirror`)' : ''}${port === 'avr' ? "; `make avr` the board's own program" : '; for the board see ports/board-core/README.md'}.
host:
	$(MAKE) -C ports/host
${port === 'avr' ? 'avr:\n\t$(MAKE) -C ports/avr\nflash:\n\t$(MAKE) -C ports/avr flash\n' : SKETCH}.PHONY: host ${port === 'avr' ? 'avr flash' : 'sketch'}
`

/** The core port's settings of this board: what stands there as 0 and is true here, becomes 1. */
function withSettings({ name, text }: BuildFile, settings: Record<string, boolean>): string {
  if (name !== 'ports/board-core/settings.h') return text
  return Object.entries(settings).reduce(
    (sum, [define, holds]) => (holds ? sum.replace(`#define ${define} 0`, `#define ${define} 1`) : sum),
    text,
  )
}

const withoutPin = ({ channels, inputs }: ControllerImage): string[] =>
  [...channels, ...inputs].filter(({ gpios }) => gpios.includes(NO_PIN)).map(({ id }) => id)

/** What was drawn and does not compile, in words. */
const refusedIn = (site: Site, controller: string): string[] => [
  ...site.controls.flatMap((control) =>
    control.kind === 'controller' && control.controller === controller && isTooNear(site, control)
      ? [`${control.action} is bound without a hold of ${longHoldOf(control)! / 1000} s at a switch`]
      : [],
  ),
  ...site.ways.flatMap((way) => {
    const channel = channelOf(site, way.channel)!
    return channel.controller === controller && opensAtASpike(site, way)
      ? [`${channel.name} could be opened by a spike on its switch`]
      : []
  }),
]

/** Runtime, the port for the bench's own machine and the board's port, with the settings that this board has. */
const fixedPart = (firmware: readonly BuildFile[], port: Port, settings: Record<string, boolean>): BuildFile[] =>
  firmware
    .filter(({ name }) =>
      ['runtime/', 'wires/', 'ports/host/', `ports/${port}/`].some((folder) => name.startsWith(folder)),
    )
    .map((file) => ({ name: `firmware/${file.name}`, text: withSettings(file, settings) }))

/** What the port of the 8-bit board is told of its modem; without it that port has no network. */
function modemFiles(site: Site, controller: Controller, image: ControllerImage, wires: ControllerWires): BuildFile[] {
  const modem = modemOf(site, controller)
  if (!modem || portOf(site, controller) !== 'avr' || !hasNetwork(site, controller)) return []
  return [{ name: 'firmware/modem_image.h', text: modemHeader(controller, modem.dialogue, image, wires) }]
}

/** What every board gets, programmed or not. */
const sheets = (site: Site, controller: Controller): BuildFile[] => [
  { name: 'sheets/service.md', text: serviceSheet(site, controller) },
  { name: 'sheets/connections.md', text: wiringSheet(site, controller) },
]
/** What the steps of the service sheet speak of, where the controller has it. */
function referredTo(site: Site, controller: Controller): BuildFile[] {
  const here = new Set(site.channels.filter((one) => one.controller === controller.id).map(({ id }) => id as string))
  const has = (kind: 'voice' | 'hub'): boolean => site.ways.some((way) => way.kind === kind && here.has(way.channel))
  const points = site.services.some((service) => service.points.some((point) => point.controller === controller.id))
  return [
    ...(points ? [{ name: 'tables/points.csv', text: pointsCsv(site) }] : []),
    ...(has('voice') ? [{ name: 'tables/voice.csv', text: voiceTable(site) }] : []),
    ...(has('hub')
      ? [
          { name: 'tables/hub.yaml', text: hubFiles(site) },
          { name: 'tables/hub-secrets.example.yaml', text: hubSecretsExample(site) },
        ]
      : []),
  ]
}

const tables = (site: Site, controller: string): BuildFile[] => [
  { name: 'tables/pins.csv', text: pinsCsv(site, controller) },
  { name: 'tables/connections.csv', text: connectionsCsv(site, controller) },
]
const document = (site: Site): BuildFile => ({ name: 'site.json', text: writeSite(site) })

/**
 * Everything that is written for one controller. A board that nobody programs gets sheets and tables, and no
 * firmware. `firmware` is the fixed part of it (runtime and ports, by their paths), read by the caller; a board gets
 * the ports that it can use. The same site and firmware give the same bytes. Throws BuildRefused where a role has no
 * pin: such firmware would drive nothing.
 */
export function buildController(site: Site, controllerId: string, firmware: readonly BuildFile[]): Build {
  const controller = controllerOf(site, controllerId)
  if (!controller) throw new BuildRefused(`there is no controller "${controllerId}" in this site`)
  const { image, part } = tablesOf(site, controllerId)
  const main = image.controller
  // a coprocessor drives nothing: the pins are the main board's business
  const missing = part === 'mirror' ? [] : withoutPin(image)
  if (missing.length)
    throw new BuildRefused(
      `${controller.name}: ${missing.join(', ')} ${missing.length === 1 ? 'has' : 'have'} no pin; plan ` +
        'the pins on the bench first',
    )
  const refused = refusedIn(site, main)
  if (refused.length) throw new BuildRefused(`${controller.name}: ${refused.join('; ')}: fix this first`)
  if (boardIn(site, controller.board)?.boxed?.parameters) {
    const steps = { name: 'sheets/set-up-steps.md', text: setupSteps(site, controller) }
    const papers = [...sheets(site, controller), steps, ...tables(site, controllerId), ...referredTo(site, controller)]
    return { image, files: [...papers, document(site)] }
  }
  const wires = compileWires(site, image, controller.link !== 'none')
  const files: BuildFile[] = [
    { name: 'firmware/image.h', text: imageHeader(image) },
    { name: 'firmware/wires_image.h', text: wiresHeader(wires) },
    ...modemFiles(site, controller, image, wires),
    { name: 'firmware/secrets.example.h', text: secretsExample(site, controller) },
    { name: 'firmware/Makefile', text: makefile(portOf(site, controller), part) },
    ...fixedPart(firmware, portOf(site, controller), {
      VESTIBULE_COPROCESSOR: part === 'mirror',
      VESTIBULE_JOINS: controller.link !== 'none',
      VESTIBULE_SERIAL_LOG: controller.serialLog && image.serial === null,
    }),
    ...sheets(site, controller),
    { name: 'sheets/flash-steps.md', text: flashSteps(site, controller, image) },
    ...tables(site, controllerId),
    ...referredTo(site, controller),
    { name: 'image.json', text: `${JSON.stringify(image, null, 2)}\n` },
    document(site),
  ]
  return { image, files }
}
