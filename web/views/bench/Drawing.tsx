import { useRef, useState, type KeyboardEvent, type MouseEvent, type PointerEvent } from 'react'

/** Sizes at which a drawing is read: the whole page, the size of the screen's text, and for the far end of a bench. */
const SIZES = [0, 1, 1.3, 1.8] as const
type Size = (typeof SIZES)[number]
const WORDS: Readonly<Record<Size, string>> = { 0: 'whole page', 1: 'as text', 1.3: 'larger', 1.8: 'largest' }

interface Props {
  readonly pages: readonly string[]
  readonly words: string
  /** a part of the drawing was pressed, or the ground between them: null */
  readonly onPart: (ref: string | null) => void
}

/** The pages of a drawing, which grow, and are moved by dragging, by scrolling and by the arrows. */
export function Drawing({ pages, words, onPart }: Props) {
  const [size, setSize] = useState<Size>(1)
  const step = (by: 1 | -1) => setSize(SIZES[Math.min(SIZES.length - 1, Math.max(0, SIZES.indexOf(size) + by))]!)
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === '+' || event.key === '-') step(event.key === '+' ? 1 : -1)
  }
  return (
    <div onKeyDown={onKeyDown}>
      <div role="group" aria-label="Size of the drawing" className="mb-1.5 flex items-center gap-1 print:hidden">
        {SIZES.map((one) => (
          <button
            key={one}
            type="button"
            aria-pressed={one === size}
            className="press-quiet aria-pressed:font-bold aria-pressed:underline"
            onClick={() => setSize(one)}
          >
            {WORDS[one]}
          </button>
        ))}
        <span className="ml-auto text-small text-soft">
          drag or scroll to move; + and − change the size; press a part
        </span>
      </div>
      {pages.map((svg, at) => (
        <Page
          key={at}
          svg={svg}
          size={size}
          words={pages.length > 1 ? `${words}, page ${at + 1}` : words}
          onPart={onPart}
        />
      ))}
    </div>
  )
}

const widthOf = (svg: string): number => Number(/viewBox="0 0 (\d+)/.exec(svg)?.[1] ?? 800)

interface PageProps {
  readonly svg: string
  readonly size: Size
  readonly words: string
  readonly onPart: Props['onPart']
}

function Page({ svg, size, words, onPart }: PageProps) {
  const drag = useDrag(onPart)
  const width = size === 0 ? '100%' : `${Math.round(widthOf(svg) * size)}px`
  return (
    <figure
      aria-label={words}
      tabIndex={0}
      className="lit-drawing mb-3 max-h-[42rem] cursor-grab overflow-auto border border-bus bg-white print:max-h-none print:break-after-page print:overflow-visible print:border-0"
      {...drag}
    >
      <div
        style={{ width }}
        className="print:!w-full [&>svg]:block [&>svg]:w-full"
        dangerouslySetInnerHTML={{ __html: svg }}
      />
    </figure>
  )
}

/** A pointer that moves less than this has pressed, px. */
const LEAST_DRAG = 4

/** Moves what is larger than its frame under the pointer that holds it. */
function useDrag(onPart: Props['onPart']) {
  const held = useRef<{ x: number; y: number } | null>(null)
  const moved = useRef(false)
  return {
    onPointerDown: (event: PointerEvent<HTMLElement>) => {
      if (event.pointerType !== 'mouse' || event.button !== 0) return
      held.current = { x: event.clientX, y: event.clientY }
      moved.current = false
    },
    onPointerMove: (event: PointerEvent<HTMLElement>) => {
      const from = held.current
      if (!from) return
      if (!moved.current && Math.hypot(from.x - event.clientX, from.y - event.clientY) < LEAST_DRAG) return
      if (!moved.current) event.currentTarget.setPointerCapture(event.pointerId)
      moved.current = true
      event.currentTarget.scrollBy(from.x - event.clientX, from.y - event.clientY)
      held.current = { x: event.clientX, y: event.clientY }
    },
    onPointerUp: () => {
      held.current = null
    },
    onClick: (event: MouseEvent<HTMLElement>) => {
      if (moved.current) return
      const part = (event.target as Element).closest('[data-ref]')
      onPart(part?.getAttribute('data-ref') ?? null)
    },
  }
}
