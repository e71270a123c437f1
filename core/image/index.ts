/** Compiles a site into the tables that a controller runs on. */
export { compileController, compileSite, CompileRefused } from './compile'
export { NO_LEVEL, NO_PIN, type ControllerImage, type ImageBinding, type ImageChannel, type ImageInput, type ImagePoint, type PowerUpPolicy } from './types'
