import { useAnswerKeys } from './useAnswerKeys'

interface Props {
  readonly asks: string
  /** what was said already */
  readonly seen: boolean | null
  readonly onSee: (seen: boolean) => void
}

export const Key = ({ children }: { children: string }) => (
  <kbd className="rounded-plate ml-1 hidden border border-bus px-1 font-mono text-small font-normal @3xl:inline">
    {children}
  </kbd>
)

/** What only an eye can see, large enough for a thumb. */
export function EyeQuestion({ asks, seen, onSee }: Props) {
  useAnswerKeys(true, (key) => key !== 's' && onSee(key === 'y'))
  const looks =
    'rounded-plate min-h-16 border-2 border-ink text-head font-bold hover:bg-wall ' +
    'aria-pressed:bg-ink aria-pressed:text-wall'
  return (
    <div className="mt-3">
      <p id="eye-question" className="text-head">
        {asks}
      </p>
      <div role="group" aria-labelledby="eye-question" className="mt-2 grid grid-cols-2 gap-2">
        <button type="button" aria-pressed={seen === true} className={looks} onClick={() => onSee(true)}>
          Yes <Key>y</Key>
        </button>
        <button type="button" aria-pressed={seen === false} className={looks} onClick={() => onSee(false)}>
          No <Key>n</Key>
        </button>
      </div>
    </div>
  )
}
