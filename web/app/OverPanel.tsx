import { X } from 'lucide-react'
import { Dialog } from 'radix-ui'
import type { ReactNode } from 'react'

interface Props {
  readonly title: string
  /** the edge of the screen that it comes from */
  readonly from: 'left' | 'below'
  readonly onClose: () => void
  readonly children: ReactNode
}

const PLACES: Readonly<Record<Props['from'], string>> = {
  left: 'inset-y-0 left-0 w-64 border-r-2',
  below: 'inset-x-0 bottom-0 max-h-[75dvh] border-t-2',
}

/** On a narrow screen: what stands beside a wide view lies over this one, until it is closed. */
export default function OverPanel({ title, from, onClose, children }: Props) {
  return (
    <Dialog.Root open onOpenChange={onClose}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/30" />
        <Dialog.Content
          aria-describedby={undefined}
          className={`fixed z-50 flex flex-col overflow-auto border-ink bg-panel px-4 py-3 ${PLACES[from]}`}
        >
          <div className="flex items-center">
            <Dialog.Title className="font-place text-head font-bold">{title}</Dialog.Title>
            <Dialog.Close className="press-quiet ml-auto min-h-9 min-w-9 justify-center" aria-label={`Close ${title}`}>
              <X size={18} aria-hidden="true" />
            </Dialog.Close>
          </div>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
