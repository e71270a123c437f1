import { useAppSelector } from '../../../store/store'
import type { TrialFrame } from '../../../workers/trialRun'
import { deedWords } from '../deedWords'
import { clockOf } from '../clock'
import type { Hold } from '../useTrial'

/** What was done in the run: each can be gone to, and taken out, so that what follows is played anew without it. */
export function DeedList({ frame, hold }: { frame: TrialFrame; hold: Hold }) {
  const site = useAppSelector((state) => state.site.site)!
  if (frame.deeds.length === 0) return <p className="py-2 text-soft">No action yet.</p>
  return (
    <ol className="min-h-0 flex-1 overflow-auto" aria-label="Actions of this run" tabIndex={0}>
      {frame.deeds.map(({ t, action }, index) => (
        <li
          key={index}
          className={`flex items-center gap-3 border-b border-hair py-0.5 ${t > frame.now ? 'text-soft' : ''}`}
        >
          <button
            type="button"
            className="press-quiet w-24 justify-end font-mono"
            onClick={() => hold.goTo(t)}
            aria-label={`Go to ${clockOf(t)}`}
          >
            {clockOf(t)}
          </button>
          <span className="flex-1">
            {deedWords(site, action)}
            {t > frame.now && <span className="ml-2 text-small">not played yet</span>}
          </span>
          <button
            type="button"
            className="press-quiet"
            onClick={() => hold.takeOut(index)}
            aria-label={`Delete: ${deedWords(site, action)} at ${clockOf(t)}`}
          >
            Delete
          </button>
        </li>
      ))}
    </ol>
  )
}
