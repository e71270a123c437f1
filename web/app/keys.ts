import { useEffect, useRef } from 'react'
import { isTyping } from '../parts/typing'
import { redo, undo } from '../store/editing'
import { screenActions } from '../store/screenSlice'
import { useAppDispatch } from '../store/store'
import { STEPS, type StepId } from './steps'

interface ShellKeys {
  readonly onFind: () => void
  readonly onHelp: () => void
  readonly onStep: (step: StepId) => void
}

/** The keys that work everywhere. A view's own keys stop the event before it gets here. */
export function useShellKeys(keys: ShellKeys): void {
  const dispatch = useAppDispatch()
  const latest = useRef(keys)
  useEffect(() => {
    latest.current = keys
  })
  useEffect(() => {
    let waitingForStep = false
    const listen = (event: KeyboardEvent) => {
      const command = event.ctrlKey || event.metaKey
      if (command && event.key.toLowerCase() === 'z' && !isTyping(event.target)) {
        event.preventDefault()
        void dispatch(event.shiftKey ? redo() : undo())
        return
      }
      if (command || event.altKey || isTyping(event.target) || event.defaultPrevented) return
      if (waitingForStep) {
        waitingForStep = false
        const step = STEPS.find((candidate) => candidate.letter === event.key)
        if (step) {
          event.preventDefault()
          latest.current.onStep(step.id)
        }
        return
      }
      const actions: Record<string, () => void> = {
        g: () => {
          waitingForStep = true
        },
        '/': () => latest.current.onFind(),
        '?': () => latest.current.onHelp(),
        u: () => void dispatch(undo()),
        U: () => void dispatch(redo()),
        d: () => dispatch(screenActions.drawerTurned()),
      }
      const action = actions[event.key]
      if (action) {
        event.preventDefault()
        action()
      }
    }
    window.addEventListener('keydown', listen)
    return () => window.removeEventListener('keydown', listen)
  }, [dispatch])
}
