import type { DoorRow } from '../../../core/api'

type Plate = DoorRow['controllers'][number]

/** What a board runs, in words and as the look of its plates: full, half, outlined, dashed. */
const STATES: Readonly<Record<Plate['state'], readonly [words: string, looks: string]>> = {
  flashed: ['', 'border-plate bg-plate'],
  behind: ['out of date', 'border-plate bg-[linear-gradient(to_top,var(--plate)_50%,transparent_50%)]'],
  built: ['not flashed', 'border-plate'],
  none: ['not flashed', 'border-plate'],
}

/** More plates than these are counted. */
const MOST = 12

/** A site as its boards, each as the plates of its channels. */
export const Plates = ({ controllers }: { controllers: readonly Plate[] }) => (
  <ul className="flex flex-wrap gap-x-4 gap-y-2.5">
    {controllers.map((controller) => (
      <PlateRow key={controller.id} controller={controller} />
    ))}
  </ul>
)

function PlateRow({ controller: { name, channels, state } }: { controller: Plate }) {
  const [words, looks] = STATES[state]
  return (
    <li>
      <span
        className="flex items-center gap-[3px]"
        role="img"
        aria-label={channels === 1 ? '1 channel' : `${channels} channels`}
      >
        {Array.from({ length: Math.min(channels, MOST) }, (_, at) => (
          <span key={at} className={`h-6 w-4 rounded-[2px] border-[1.5px] ${looks}`} />
        ))}
        {channels === 0 && <span className="h-6 w-4 rounded-[2px] border-[1.5px] border-dashed border-bus" />}
        {channels > MOST && <span className="text-small text-soft">+{channels - MOST}</span>}
      </span>
      <span className="mt-0.5 block text-small text-soft">
        {name}
        {words && `, ${words}`}
      </span>
    </li>
  )
}
