import type { Controller, Site } from '../../core/site'

/** What `selectShown` looks at. */
interface State {
  readonly site: { readonly site: Site | null }
  readonly screen: { readonly controller: string | null; readonly step: string | null }
}

/** Steps that show one controller at a time: there, nothing picked means the first. */
const ONE_AT_A_TIME: ReadonlySet<string | null> = new Set(['bench', 'build', 'paper'])
export const showsOne = (step: string | null): boolean => ONE_AT_A_TIME.has(step)

/**
 * The controller that the page shows: head, rail, drawer and views all go by this one. Null: all of them. A controller
 * that is gone (deleted here or in another tab) is picked no more.
 */
export function selectShown({ site: { site }, screen: { controller, step } }: State): string | null {
  const there = site?.controllers.find(({ id }) => id === controller)?.id ?? null
  return there ?? (showsOne(step) ? (site?.controllers[0]?.id ?? null) : null)
}

/** For the views that show one: the controller itself. Undefined: the site has none. */
export const selectShownController = (state: State): Controller | undefined => {
  const controllers = state.site.site?.controllers ?? []
  const id = selectShown(state)
  return controllers.find((controller) => controller.id === id) ?? controllers[0]
}
