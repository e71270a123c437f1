import { useEffect, useState } from 'react'
import { wiringPages } from '../../../core/outputs'
import type { Circuit } from '../../../core/wiring'

/** The pages of a circuit's drawing; null while it is being laid out. */
export function useDrawing(circuit: Circuit, title: string, cautions: readonly string[]): readonly string[] | null {
  const [svg, setSvg] = useState<readonly string[] | null>(null)
  useEffect(() => {
    let stale = false
    void (async () => {
      const { default: Elk } = await import('elkjs/lib/elk.bundled.js')
      const drawn = await wiringPages(circuit, title, cautions, new Elk())
      if (!stale) setSvg(drawn)
    })()
    return () => {
      stale = true
    }
  }, [circuit, title, cautions])
  return svg
}
