import { useId, useState, type FormEvent } from 'react'
import type { RigBoard, RigPaired } from '../../../../core/api'
import { counted, handFor, timeText, type Site } from '../../../../core/site'
import { call } from '../../../store/api'
import { attempt } from '../../../store/attempt'

/** The phone beside a board that can be paired: it says the PIN of the label, and gives network and logins. */
export function PairBoard({ site, board }: { site: Site; board: RigBoard }) {
  if (board.pairing === 'none') return null
  if (board.pairing === 'offered') return <PinForm site={site} board={board} />
  return <p className="mt-2 text-small text-soft">{howToOffer(site, board.controller)}</p>
}

function PinForm({ site, board }: { site: Site; board: RigBoard }) {
  const [pin, setPin] = useState('')
  const [how, setHow] = useState<RigPaired | null>(null)
  const id = useId()
  const send = async (event: FormEvent) => {
    event.preventDefault()
    const answer = await attempt(call('pairBoard', { site: site.id, controller: board.controller, body: { pin } }))
    if (answer) setHow(answer)
  }
  return (
    <form className="mt-2 flex flex-wrap items-end gap-2" onSubmit={(event) => void send(event)}>
      <span>
        <label htmlFor={id} className="field-label">
          PIN on its label
        </label>
        <input
          id={id}
          className="field w-40 font-mono"
          value={pin}
          autoComplete="off"
          inputMode="numeric"
          aria-describedby={`${id}-how`}
          onChange={(event) => setPin(event.target.value)}
        />
      </span>
      <button type="submit" className="press-main" disabled={pin === ''}>
        Pair
      </button>
      <span
        id={`${id}-how`}
        role="status"
        className={how && how.kind !== 'done' ? 'text-small text-error' : 'text-small'}
      >
        {how ? wordsOf(how) : 'It is ready to pair.'}
      </span>
    </form>
  )
}

function wordsOf(how: RigPaired): string {
  switch (how.kind) {
    case 'done':
      return 'Paired.'
    case 'wrong':
      return `Wrong PIN: ${counted(how.left, 'try', 'tries')} left.`
    case 'wait':
      return `Too many wrong PINs: it accepts none for ${Math.ceil(how.seconds / 60)} min.`
    case 'bad':
      return `It did not take “${how.word}”: look at that credential.`
    case 'silent':
      return 'It did not answer.'
  }
}

/** What a hand does for it at this controller. */
function howToOffer(site: Site, controller: string): string {
  const hand = handFor(site, controller, 'pair')
  return hand
    ? `Hold ${hand.name} for ${timeText(hand.holdMs)}, and it can be paired.`
    : 'Nothing at it starts pairing: bind a hold of 3 s or more to “start pairing” under Rules.'
}
