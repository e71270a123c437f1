import type { ReactNode } from 'react'

interface Props {
  readonly title: string
  /** one line of what is looked at */
  readonly note: ReactNode
  /** what can be done with the whole of it */
  readonly children?: ReactNode
}

/** The head of a view: its name, what is looked at, and the presses for the whole of it. */
export const ViewHead = ({ title, note, children }: Props) => (
  <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1.5">
    <h1 className="text-view leading-tight font-bold">{title}</h1>
    <p className="min-w-40 flex-1 text-note text-soft">{note}</p>
    {children && <div className="flex flex-wrap items-center gap-2 print:hidden">{children}</div>}
  </div>
)
