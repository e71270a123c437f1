import { Dialog } from 'radix-ui'
import { KEYS } from './keyList'

export default function KeysHelp({ onClose }: { onClose: () => void }) {
  return (
    <Dialog.Root open onOpenChange={onClose}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/30" />
        <Dialog.Content
          className="fixed top-1/2 left-1/2 z-50 max-h-[calc(100dvh-2rem)] w-[min(32rem,calc(100vw-1rem))] overflow-auto -translate-x-1/2 -translate-y-1/2 border-2 border-ink bg-panel p-5"
          aria-describedby={undefined}
        >
          <Dialog.Title className="font-place mb-3 text-room font-bold">Keys</Dialog.Title>
          <dl className="grid grid-cols-[9rem_1fr] gap-y-1.5">
            {KEYS.map(([place, keys]) => (
              <div key={place} className="contents">
                <dt className="col-span-full mt-2 border-b border-hair text-note font-semibold">{place}</dt>
                {keys.map(([key, what]) => (
                  <div key={key} className="contents">
                    <dt className="font-mono text-note">{key}</dt>
                    <dd>{what}</dd>
                  </div>
                ))}
              </div>
            ))}
          </dl>
          <Dialog.Close className="press mt-4">Close</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
