import type { GpioSpot } from './schema'

/** What is dangerous or particular about a pin, in a word or two. */
export function pinNotes(spot: GpioSpot): string[] {
  const notes: string[] = []
  if (!spot.can.includes('output')) notes.push(spot.can.includes('input') ? 'input only' : 'analogue only')
  if (spot.startLevel) notes.push(`${spot.startLevel.level} to start`)
  if (spot.startActivity) notes.push(spot.startActivity.level === 'high' ? 'rises' : 'pulses')
  if (spot.glitches) notes.push('glitches')
  if (spot.usedBy?.includes('serial-log')) notes.push('log')
  if (spot.usedBy?.includes('serial-2')) notes.push('serial 2')
  if (spot.usedBy?.includes('light')) notes.push('light')
  if (spot.usedBy?.includes('button')) notes.push('button')
  return notes
}
