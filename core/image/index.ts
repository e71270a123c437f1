/** Compiles a site into the tables that a controller runs on. */
export { compileController, compileSite, CompileRefused, tablesOf, type BoardTables } from './compile'
export { isInHouse, linksWanted, wiredServices } from './compileNetwork'
export { thousandths } from './compileRules'
export {
  linksOf,
  MOST_LINKS,
  NO_INPUT,
  NO_LEVEL,
  NO_PIN,
  type ControllerAction,
  type ControllerImage,
  type ImageAction,
  type ImageBinding,
  type ImageChannel,
  type ImageChar,
  type ImageDeed,
  type ImageGroup,
  type ImageInput,
  type ImageKey,
  type ImageLink,
  type ImagePoint,
  type PairRole,
  type ImageRule,
  type ImageSchedule,
  type ImageSensor,
  type PowerUpPolicy,
} from './types'
