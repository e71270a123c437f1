import { useState, type FormEvent } from 'react'
import { boardsIn } from '../../../core/boards'
import { idFromName, newController } from '../../../core/site'
import { edit } from '../../store/editing'
import { screenActions } from '../../store/screenSlice'
import { useAppDispatch, useAppSelector } from '../../store/store'

/** A board onto the table. */
export function NewController({ open = false }: { open?: boolean }) {
  const [shown, setShown] = useState(false)
  if (open)
    return (
      <div className="mt-4 w-80">
        <ControllerForm />
      </div>
    )
  return (
    <div className="relative" onKeyDown={(event) => event.key === 'Escape' && setShown(false)}>
      <button type="button" className="press" aria-expanded={shown} onClick={() => setShown(!shown)}>
        Add controller
      </button>
      {shown && (
        <div
          role="dialog"
          aria-label="New controller"
          className="absolute top-full right-0 z-40 mt-1.5 w-80 border-2 border-ink bg-panel p-3 shadow-lg"
        >
          <ControllerForm onDone={() => setShown(false)} />
        </div>
      )}
    </div>
  )
}

/** Puts a board on the table and turns the bench to it. */
function useNewController(): (name: string, board: string) => void {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  return (name, board) => {
    const taken = site.controllers.map((controller) => controller.id)
    const { link, boxed } = boardsIn(site).find((one) => one.id === board)!
    dispatch(
      edit(`controller ${name}`, (draft) => {
        draft.controllers.push(newController(draft, name, board, boxed ? { link, module: null } : { link }))
      }),
    )
    dispatch(screenActions.controllerPicked(idFromName<string>(name, taken, 'controller')))
  }
}

function BoardChoice({ value, onChange }: { value: string; onChange: (board: string) => void }) {
  const boards = boardsIn(useAppSelector((state) => state.site.site)!)
  return (
    <label className="block">
      <span className="field-label">Board</span>
      <select className="field" value={value} onChange={(event) => onChange(event.target.value)}>
        {boards.map((one) => (
          <option key={one.id} value={one.id}>
            {one.name}
          </option>
        ))}
      </select>
    </label>
  )
}

function ControllerForm({ onDone }: { onDone?: () => void }) {
  const boards = boardsIn(useAppSelector((state) => state.site.site)!)
  const put = useNewController()
  const [name, setName] = useState('')
  const [board, setBoard] = useState(boards[0]!.id)
  const add = (event: FormEvent) => {
    event.preventDefault()
    if (!name.trim()) return
    put(name.trim(), board)
    setName('')
    onDone?.()
  }
  return (
    <form className="space-y-2" onSubmit={add}>
      <label className="block">
        <span className="field-label">Name of the controller</span>
        <input
          autoFocus
          className="field"
          value={name}
          maxLength={60}
          placeholder="Corner"
          onChange={(event) => setName(event.target.value)}
        />
      </label>
      <BoardChoice value={board} onChange={setBoard} />
      <button type="submit" className="press-main" disabled={!name.trim()}>
        Add to bench
      </button>
    </form>
  )
}
