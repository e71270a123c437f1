import { PLACE_WORDS, PLACES, type Place } from '../../core/parts'

/** Where the person is: what they can reach follows from it. */
export const Standing = ({ place, onPick }: { place: Place; onPick: (place: Place) => void }) => (
  <span role="group" aria-label="You are" className="flex items-center">
    <span className="mr-1.5 text-small text-soft">You are</span>
    {PLACES.map((one) => (
      <button
        key={one}
        type="button"
        aria-pressed={place === one}
        className={
          'min-h-7 border border-l-0 border-ink px-2 text-note first-of-type:rounded-l-plate first-of-type:border-l ' +
          'last:rounded-r-plate aria-pressed:bg-ink aria-pressed:text-wall'
        }
        onClick={() => onPick(one)}
      >
        {PLACE_WORDS[one]}
      </button>
    ))}
  </span>
)
