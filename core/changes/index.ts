/** What to change so that less goes wrong: each possible change worked through. */
export { optionsFor, type Option } from './options'
export { applied, changeAndPlan, worthOf, type Worth } from './worth'
