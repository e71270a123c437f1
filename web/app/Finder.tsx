import { Command } from 'cmdk'
import { useNavigate } from 'react-router'
import { screenActions } from '../store/screenSlice'
import { useAppDispatch, useAppSelector } from '../store/store'
import { placesOf, type Place } from './places'

/** Goes to a place, and picks what stands there. */
function useGo(site: string): (place: Place) => void {
  const dispatch = useAppDispatch()
  const navigate = useNavigate()
  return ({ controller, cell, role, step }) => {
    if (controller) dispatch(screenActions.controllerPicked(controller))
    if (cell) {
      dispatch(screenActions.controllerPicked(null))
      dispatch(screenActions.cellPicked(cell))
    }
    if (role) dispatch(screenActions.rolePicked(role))
    void navigate(`/${site}/${step}`)
  }
}

export default function Finder({ onClose }: { onClose: () => void }) {
  const site = useAppSelector((state) => state.site.site)
  const go = useGo(site?.id ?? '')
  if (!site) return null
  return (
    <Command.Dialog
      open
      onOpenChange={onClose}
      label="Find anything"
      overlayClassName="fixed inset-0 z-40 bg-ink/30"
      contentClassName="fixed top-24 left-1/2 z-50 w-[min(34rem,calc(100vw-1rem))] -translate-x-1/2 border-2 border-ink bg-panel"
    >
      <Command.Input
        autoFocus
        placeholder="channel, switch, vp, topic, step …"
        className="w-full border-b border-hair bg-transparent px-4 py-3 text-head outline-none"
      />
      <Command.List className="max-h-80 overflow-auto p-2">
        <Command.Empty className="p-3 text-soft">Nothing of that name on this site.</Command.Empty>
        {placesOf(site).map((place) => (
          <Found
            key={place.key}
            place={place}
            onPick={() => {
              go(place)
              onClose()
            }}
          />
        ))}
      </Command.List>
    </Command.Dialog>
  )
}

function Found({ place, onPick }: { place: Place; onPick: () => void }) {
  return (
    <Command.Item
      value={`${place.name} ${place.detail} ${place.key}`}
      onSelect={onPick}
      className={
        'flex cursor-pointer items-baseline gap-3 px-2 py-1.5 data-[selected=true]:bg-ink ' +
        'data-[selected=true]:text-wall'
      }
    >
      <span className="font-semibold">{place.name}</span>
      <span className="text-note opacity-80">{place.detail}</span>
    </Command.Item>
  )
}
