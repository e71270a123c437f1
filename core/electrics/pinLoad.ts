import { boardIn, moduleIn } from '../boards'
import { relaysOn, type Controller, type Site } from '../site'
import { optoChain } from './optoDrive'
import { baseDrive } from './transistorDrive'
import { figure, type Calculation } from './calculation'

export interface PinLoad {
  /** mA from one output pin */
  readonly each: number
  /** mA from all outputs of the board together */
  readonly all: number
  readonly calculations: readonly Calculation[]
}

/** mA of the parts that hang on their pin alone. */
const partsOnPins = (site: Site, { parts }: Controller): number =>
  parts.reduce((sum, { profile, fitted }) => {
    const drawn = moduleIn(site, 'part', profile)?.pinMilliamps ?? 0
    return fitted?.includes('transistor') ? sum : sum + drawn
  }, 0)

/** What the outputs ask of their pins and of the port as a whole; undefined without a module or a board profile. */
export function pinLoad(site: Site, controller: Controller): PinLoad | undefined {
  const board = boardIn(site, controller.board)
  const { module } = controller
  if (!board || !module) return undefined
  const each =
    module.driver === 'none'
      ? (module.coilVolts / module.coilOhms) * 1000
      : module.input === 'opto'
        ? optoChain(module, board.logicVolts).onMilliamps
        : baseDrive(module.coilVolts, module.coilOhms, board.logicVolts).pinMilliamps
  const count = relaysOn(site, controller.id).length
  const ofParts = partsOnPins(site, controller)
  const all = each * count + ofParts
  const { recommended, absolute, total } = board.pinMilliamps
  return {
    each,
    all,
    calculations: [
      {
        name: 'from one pin',
        value: each,
        unit: 'mA',
        formula: `${figure(each)} mA; ${recommended} mA recommended, ${absolute} mA absolute`,
        source: board.source,
      },
      {
        name: 'from all pins',
        value: all,
        unit: 'mA',
        formula:
          `${count} · ${figure(each)} mA${ofParts > 0 ? ` + ${figure(ofParts)} mA of parts` : ''} = ${figure(all)} mA; ` +
          `${total} mA for the board`,
        source: board.source,
      },
    ],
  }
}
