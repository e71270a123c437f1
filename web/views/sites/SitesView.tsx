import { Arch } from '../../parts/Arch'
import { Beginnings } from './Beginnings'
import { SiteList } from './SiteList'
import { useDoor } from './useDoor'

/** The entrance hall: the sites there are, with what is open in them, and the ways to begin another. */
export function SitesView() {
  const door = useDoor()
  return (
    <main className="mx-auto max-w-5xl px-5 py-8 sm:px-8 sm:py-12">
      <div className="flex items-center gap-5">
        <Arch size={58} />
        <div>
          <h1 className="text-[2rem] leading-tight font-bold">Vestibule</h1>
          <p className="text-head text-soft">
            Every way in to every channel: planned, proved, and on record before mains goes on.
          </p>
        </div>
      </div>
      {door.error && (
        <p role="alert" className="mt-5 border-2 border-error px-3 py-2 text-error">
          {door.error}
        </p>
      )}
      <SiteList door={door} />
      <Beginnings door={door} />
      <p className="mt-6 text-small text-soft">
        <kbd className="rounded-plate mr-1 border border-bus px-1 font-mono">n</kbd> new site
      </p>
      <p className="mt-3 text-note text-soft">
        Mains can kill and burn. Supply off and proved dead before opening a box, covers on before power, a licensed
        electrician where the law asks for one. Local code decides.
      </p>
    </main>
  )
}
