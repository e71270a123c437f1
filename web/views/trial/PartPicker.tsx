import { Command } from 'cmdk'
import { useMemo, useState } from 'react'
import { FAULT_WORDS, partsOf, type FaultKind, type PartId } from '../../../core/parts'
import type { Site } from '../../../core/site'

interface Props {
  readonly site: Site
  readonly onBreak: (what: PartId, how: FaultKind) => void
}

/** Any part of the house, and any way in which it can fail: found by typing. */
export function PartPicker(props: Props) {
  const [open, setOpen] = useState(false)
  return (
    <>
      <button type="button" className="press-quiet" onClick={() => setOpen(true)}>
        Break another part …
      </button>
      {open && <PartDialog {...props} onClose={() => setOpen(false)} />}
    </>
  )
}

function PartDialog({ site, onBreak, onClose }: Props & { readonly onClose: () => void }) {
  const rows = useMemo(
    () => [...partsOf(site).values()].flatMap((part) => part.faults.map((how) => ({ part, how }))),
    [site],
  )
  return (
    <Command.Dialog
      open
      onOpenChange={onClose}
      label="Break a part of the house"
      overlayClassName="fixed inset-0 z-40 bg-ink/30"
      contentClassName="fixed top-24 left-1/2 z-50 w-[min(36rem,calc(100vw-1rem))] -translate-x-1/2 border-2 border-ink bg-panel"
    >
      <Command.Input
        autoFocus
        placeholder="contact, switch, wire, load, remote … and how it fails"
        className="w-full border-b border-hair bg-transparent px-4 py-3 text-head outline-none"
      />
      <Command.List className="max-h-80 overflow-auto p-2">
        <Command.Empty className="p-3 text-soft">This house has no such part.</Command.Empty>
        {rows.map(({ part, how }) => (
          <Command.Item
            key={`${part.id} ${how}`}
            value={`${part.name} ${FAULT_WORDS[how]} ${part.id}`}
            onSelect={() => {
              onBreak(part.id, how)
              onClose()
            }}
            className="flex cursor-pointer items-baseline gap-3 px-2 py-1 data-[selected=true]:bg-ink data-[selected=true]:text-wall"
          >
            <span className="font-semibold">{part.name}</span>
            <span className="text-note opacity-80">{FAULT_WORDS[how]}</span>
          </Command.Item>
        ))}
      </Command.List>
    </Command.Dialog>
  )
}
