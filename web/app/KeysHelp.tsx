import { Dialog } from 'radix-ui'
import { Fragment } from 'react'
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
          {KEYS.map(([place, keys]) => (
            <section key={place} aria-label={place} className="mt-3">
              <h3 className="rule-head">{place}</h3>
              <dl className="mt-1 grid grid-cols-[11rem_1fr] gap-x-2 gap-y-1">
                {keys.map(([key, what]) => (
                  <Fragment key={key}>
                    <dt className="font-mono text-note">{key}</dt>
                    <dd>{what}</dd>
                  </Fragment>
                ))}
              </dl>
            </section>
          ))}
          <Dialog.Close className="press mt-4">Close</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
