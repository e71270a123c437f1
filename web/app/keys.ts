import { useEffect, useRef } from 'react'
import { isTyping, takesNoLetter } from '../parts/typing'
import { redo, undo } from '../store/editing'
import { useAppDispatch } from '../store/store'
import { STEPS, type StepId } from './steps'

interface ShellKeys {
  readonly onFind: () => void
  readonly onHelp: () => void
  readonly onDrawer: () => void
  readonly onStep: (step: StepId) => void
}

/** How far around a field its help is looked for. */
const HELP_WITHIN = 3

/** Opens or closes the help of the field in hand; false: it has none. */
function openHelp(target: EventTarget | null): boolean {
  let around = target instanceof Element ? target.parentElement : null
  for (let level = 0; around && level < HELP_WITHIN; level++, around = around.parentElement) {
    const press = around.querySelector<HTMLElement>('[data-help]')
    if (press) return press.click() === undefined
  }
  return false
}

/** What a listener does with the shell's keys; `g` waits for the letter of a step. */
function listener(keys: () => ShellKeys, dispatch: ReturnType<typeof useAppDispatch>) {
  let waitingForStep = false
  const actions: Record<string, () => void> = {
    g: () => {
      waitingForStep = true
    },
    '/': () => keys().onFind(),
    '?': () => keys().onHelp(),
    u: () => void dispatch(undo()),
    U: () => void dispatch(redo()),
    d: () => keys().onDrawer(),
  }
  const actionOf = (key: string): (() => void) | undefined => {
    if (!waitingForStep) return actions[key]
    waitingForStep = false
    const step = STEPS.find((candidate) => candidate.letter === key)
    return step && (() => keys().onStep(step.id))
  }
  return (event: KeyboardEvent) => {
    if (event.key === 'F1' && openHelp(event.target)) return event.preventDefault()
    const undoes = event.key.toLowerCase() === 'u' && takesNoLetter(event.target)
    if (isTyping(event.target) && !undoes) return
    const command = event.ctrlKey || event.metaKey
    if (command && event.key.toLowerCase() === 'z') {
      event.preventDefault()
      void dispatch(event.shiftKey ? redo() : undo())
      return
    }
    if (command || event.altKey || event.defaultPrevented) return
    const action = actionOf(event.key)
    if (!action) return
    event.preventDefault()
    action()
  }
}

/** The keys that work everywhere. A view's own keys stop the event before it gets here. */
export function useShellKeys(keys: ShellKeys): void {
  const dispatch = useAppDispatch()
  const latest = useRef(keys)
  useEffect(() => {
    latest.current = keys
  })
  useEffect(() => {
    const listen = listener(() => latest.current, dispatch)
    window.addEventListener('keydown', listen)
    return () => window.removeEventListener('keydown', listen)
  }, [dispatch])
}
