/** Everything that is written for the maker: firmware tables, sheets, lists, open formats. */
export { cString, imageHeader } from './imageHeader'
