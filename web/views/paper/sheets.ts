/** What can be printed of a controller, in the order in which it is wanted at the bench. */
export const SHEETS = [
  { id: 'connections', name: 'Connections' },
  { id: 'wiring', name: 'Wiring and parts' },
  { id: 'labels', name: 'Labels' },
  { id: 'service', name: 'Service sheet' },
  { id: 'flash', name: 'Flash steps' },
  { id: 'test', name: 'Acceptance record' },
  { id: 'card', name: 'Door card' },
] as const
export type SheetId = (typeof SHEETS)[number]['id']

/** Where a sheet stands, with a button of its own to print it. */
export const sheetPath = (site: string, sheet: SheetId): string => `/${site}/paper?side=${sheet}`
