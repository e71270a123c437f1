import { useEffect, type RefObject } from 'react'
import type { CrossbarLine } from '../../../core/ways'
import { useAppSelector } from '../../store/store'

/** A cell behind the channels' own column, or beyond the edge, is scrolled out from there. */
function bringIntoSight(cell: HTMLElement): void {
  const view = document.getElementById('view')
  if (!view) return
  const frame = view.getBoundingClientRect()
  const box = cell.getBoundingClientRect()
  const firstColumn = cell.parentElement?.firstElementChild?.clientWidth ?? 0
  const head = 56
  if (box.top < frame.top + head) view.scrollTop -= frame.top + head - box.top
  else if (box.bottom > frame.bottom - 8) view.scrollTop += box.bottom - frame.bottom + 8
  if (box.left < frame.left + firstColumn) view.scrollLeft -= frame.left + firstColumn - box.left
  else if (box.right > frame.right - 12) view.scrollLeft += box.right - frame.right + 12
}

/** Lines that are drawn, and a way to those that are not. */
interface Rows {
  getVirtualItems(): readonly { readonly index: number }[]
  scrollToIndex(at: number, options: { align: 'auto' }): void
}

/** Gives the focus to the cell that is picked, unless it stands somewhere else on the page by intent. */
export function useCrossbarFocus(
  grid: RefObject<HTMLElement | null>,
  lines: readonly CrossbarLine[],
  rows: Rows,
): void {
  const picked = useAppSelector((state) => state.screen.cell)
  useEffect(() => {
    if (!picked || !grid.current) return
    const at = lines.findIndex((line) => line.kind === 'channel' && line.channel.id === picked.channel)
    if (at < 0) return
    const mayFocus = document.activeElement === document.body || grid.current.contains(document.activeElement)
    // a line that is drawn needs only a nudge, which costs no layout of its own; one that is not must first be scrolled
    // to
    if (!rows.getVirtualItems().some((item) => item.index === at)) rows.scrollToIndex(at, { align: 'auto' })
    const focus = () => {
      const cell = grid.current?.querySelector<HTMLElement>(`[data-cell="${picked.channel}/${picked.column}"]`)
      cell?.focus({ preventScroll: true })
      if (cell) bringIntoSight(cell)
      return cell
    }
    if (!mayFocus || focus()) return
    // a line that was out of sight is drawn with the next frame
    const frame = requestAnimationFrame(focus)
    return () => cancelAnimationFrame(frame)
    // Only a new choice moves the focus; an edit of the document leaves it where it is.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [picked])
}
