import { useEffect, useRef } from 'react'
import { isTyping } from '../../../parts/typing'

/** y, n and s answer, as long as nobody types a note. */
export function useAnswerKeys(may: boolean, answer: (key: 'y' | 'n' | 's') => void): void {
  const latest = useRef(answer)
  useEffect(() => {
    latest.current = answer
  })
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      const key = (['y', 'n', 's'] as const).find((one) => one === event.key)
      if (!may || !key || event.ctrlKey || event.metaKey || event.altKey || isTyping(event.target)) return
      event.preventDefault()
      latest.current(key)
    }
    window.addEventListener('keydown', listen)
    return () => window.removeEventListener('keydown', listen)
  }, [may])
}
