// What reads sketches and plans pins weighs more than the page that offers it: it is a chunk of its own.
export { boardIn } from '../../../core/boards'
export { importChannels, readSketch, siteFromAnswers, siteFromSketch } from '../../../core/imports'
export { applyOperations, counted } from '../../../core/site'
