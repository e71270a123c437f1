import { controllerOf, type Controller, type Site } from '../site'

/**
 * A person's words in Markdown, as they were typed: what begins emphasis, code, a link or HTML stands behind a
 * backslash (CommonMark 0.31, 2.4). An underscore within a word begins nothing there, and a bar is the table's own
 * business.
 */
export const escapeMarkdown = (text: string): string => text.replace(/[\\`*[\]<>]/g, '\\$&')

/** The same value with each name in it escaped; whatever else it holds stays. */
function withNamesEscaped<T>(value: T): T {
  if (Array.isArray(value)) return value.map(withNamesEscaped) as T
  if (typeof value !== 'object' || value === null) return value
  return Object.fromEntries(
    Object.entries(value).map(([key, own]) => [
      key,
      key === 'name' && typeof own === 'string' ? escapeMarkdown(own) : withNamesEscaped(own),
    ]),
  ) as T
}

/** Writes a sheet about a controller from the document, with all names of people as they may stand in Markdown. */
export function inMarkdown(
  site: Site,
  controller: Controller,
  write: (site: Site, controller: Controller) => string,
): string {
  const printed = withNamesEscaped(site)
  return write(printed, controllerOf(printed, controller.id)!)
}
