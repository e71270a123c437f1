import { formatDistanceToNowStrict } from 'date-fns'
import { useCallback } from 'react'
import { codeName, encodeFrame, writePulseSpace } from '../../../../core/infrared'
import type { Key, Remote } from '../../../../core/site'
import { codeHeard } from '../../../../core/witness'
import { useAsked } from '../../../parts/useAsked'
import { call } from '../../../store/api'
import { useAppSelector } from '../../../store/store'

const isBoards = ({ kind }: { kind: string }): boolean => kind === 'boards'

interface Props {
  readonly remote: Remote
  /** takes a capture into the field, as if it had been dropped there */
  readonly onCapture: (text: string) => void
  /** teaches a code of no protocol, of which there is no capture */
  readonly onCode: (code: Key['code']) => void
}

/** Keys that were just pressed at the real receiver of this remote, and that no key here knows yet. */
export function HeardKeys({ remote, onCapture, onCode }: Props) {
  const site = useAppSelector((state) => state.site.site)!
  const ask = useCallback(() => call('boards', { site: site.id }), [site.id])
  const board = useAsked(ask, isBoards)?.boards.find(({ controller }) => controller === remote.controller)
  if (!board || board.state !== 'online') return null
  const name = site.controllers.find(({ id }) => id === remote.controller)?.name
  const take = (code: Key['code']) => {
    if (code.protocol === 'unknown') onCode(code)
    else onCapture(writePulseSpace(encodeFrame(code)))
  }
  return (
    <section aria-label="Heard at the receiver" className="mt-2">
      <p className="text-note">
        {board.keys.length === 0
          ? `${name} is online: press a key at its receiver. One that nobody has taught appears here.`
          : `Pressed at the receiver of ${name}, and not taught yet:`}
      </p>
      <div className="mt-1 flex flex-wrap gap-1.5">
        {board.keys.map(({ at, ...key }) => {
          const code = codeHeard(key)
          if (!code) return null
          return (
            <button key={codeName(code)} type="button" className="press font-mono" onClick={() => take(code)}>
              {codeName(code)}
              <span className="font-sans text-small font-normal text-soft">
                {formatDistanceToNowStrict(new Date(at))} ago
              </span>
            </button>
          )
        })}
      </div>
    </section>
  )
}
