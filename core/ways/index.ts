/** The ways in: what stands in each cell of the crossbar, and the changes that make and remove them. */
export { cellOf, columnFoot, COLUMN_NAMES, COLUMNS, type Cell, type Column, type Mark } from './columns'
export { addAppWay, addHubWay, addSwitchFor, addWallWay, fillColumn, firstHub, firstService, freeVp, removeWay, usualBindings } from './make'
export { removeChannel, removeController, removeInput, removePart } from './remove'
export { pathOf, type Station } from './path'
export { giveWallWay, setInputKind } from './switches'
