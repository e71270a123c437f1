import { useEffect } from 'react'

const FOCUSABLE = 'a[href], button:not(:disabled), input:not(:disabled), select:not(:disabled), textarea, [tabindex]'

/** Where a thing stood: the elements around it, the nearest first, each with the place of the next one in it. */
type Chain = readonly (readonly [around: Element, at: number])[]

function chainOf(element: Element): Chain {
  const chain: [Element, number][] = []
  for (let one = element; one.parentElement; one = one.parentElement)
    chain.push([one.parentElement, [...one.parentElement.children].indexOf(one)])
  return chain
}

/** What now stands where a thing stood that is gone: its successor in a list, or the nearest thing around it. */
function successor(chain: Chain): HTMLElement | null {
  for (const [around, at] of chain) {
    if (!around.isConnected) continue
    const beside = around.children[Math.min(at, around.children.length - 1)]
    const next = beside?.matches(FOCUSABLE) ? beside : beside?.querySelector(FOCUSABLE)
    const found = next ?? around.querySelector(FOCUSABLE)
    if (found instanceof HTMLElement) return found
  }
  return null
}

/**
 * A fix that is pressed goes away with its finding, a row with its delete button: then the focus goes to what stands in
 * its place, and not to the top of the page, from where a hand on the keyboard would have to walk again.
 */
export function useKeptFocus(): void {
  useEffect(() => {
    let last: Element | null = null
    let chain: Chain = []
    const remember = ({ target }: FocusEvent) => {
      if (!(target instanceof Element) || target === document.body) return
      last = target
      chain = chainOf(target)
    }
    let frame = 0
    const look = () => {
      if (last === null || last.isConnected || document.activeElement !== document.body) return
      successor(chain)?.focus({ preventScroll: true })
    }
    const observer = new MutationObserver(() => {
      if (last === null || last.isConnected) return
      cancelAnimationFrame(frame)
      // a dialog that closes gives the focus back by itself, and first
      frame = requestAnimationFrame(look)
    })
    document.addEventListener('focusin', remember)
    observer.observe(document.body, { childList: true, subtree: true })
    return () => {
      cancelAnimationFrame(frame)
      observer.disconnect()
      document.removeEventListener('focusin', remember)
    }
  }, [])
}
