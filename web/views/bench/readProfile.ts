// The schemas weigh more than the tab: they come when a profile is kept.
export { readProfile } from '../../../core/boards'
