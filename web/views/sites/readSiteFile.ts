// The checks of a site file weigh more than the page that offers them: they are a chunk of their own.
export { readSite } from '../../../core/site'
