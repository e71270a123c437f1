import { channelsOn, type Controller, type Site } from '../site'
import { hasMains } from './cautions'
import { codeLabel, type Code } from './codeLabel'

/** The build that is on a board, as its label says it; null: none is on record. */
export type OnBoard = { readonly number: number; readonly hash: string } | null

/**
 * What the code on a box holds (docs/formats.md, "Box label"): a URI of our own scheme (RFC 3986, 3). It opens nothing:
 * it says which box this is, and which tables were on its board when the label was made.
 */
export function boxPayload(site: Site, controller: Controller, board: OnBoard): string {
  const parts = [
    ['site', site.id],
    ['board', controller.id],
    ...(board ? [['build', String(board.number)] as const, ['tables', board.hash] as const] : []),
  ] as const
  return `vestibule:box?${parts.map(([name, value]) => `${name}=${encodeURIComponent(value)}`).join('&')}`
}

/** What a box label says: which box, what it feeds, what feeds it, and what must be off before it is opened. */
export function boxLabel(site: Site, controller: Controller, board: OnBoard, code: Code): string {
  const { mains } = controller
  const channels = channelsOn(site, controller.id)
  return codeLabel(
    `Box label of ${controller.name}`,
    [
      `${site.name}: ${controller.name}`,
      `${channels.length} channel${channels.length === 1 ? '' : 's'}: ${channels
        .slice(0, 2)
        .map(({ name }) => name)
        .join(', ')}${channels.length > 2 ? ' …' : ''}`,
      ...(hasMains(site, controller.id)
        ? [
            !mains || mains.breakerAmps === null
              ? `Mains ${site.mains.volts} V: breaker not stated`
              : `Mains ${site.mains.volts} V, breaker ${mains.breakerAmps} A`,
            'Supply off, proved dead, then open.',
          ]
        : ['No mains inside.']),
      board ? `Build ${board.number}, tables` : 'No flash on record.',
      ...(board ? [board.hash] : []),
    ],
    code,
  )
}
