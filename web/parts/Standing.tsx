import { PLACE_WORDS, PLACES, type Place } from '../../core/parts'
import { ChoiceBar } from './ChoiceBar'

/** Where the person is: what they can reach follows from it. */
export const Standing = ({ place, onPick }: { place: Place; onPick: (place: Place) => void }) => (
  <ChoiceBar label="You are" choices={PLACES} words={PLACE_WORDS} value={place} onPick={onPick} />
)
