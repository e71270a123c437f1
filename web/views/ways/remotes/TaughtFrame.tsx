import type { ReactNode } from 'react'
import {
  bitsText,
  closeLengths,
  codeName,
  taughtCode,
  writePulseSpace,
  writeVcd,
  type Decoded,
} from '../../../../core/infrared'
import type { Key, Remote } from '../../../../core/site'
import { addKey } from '../../../../core/ways'
import { save } from '../../../parts/save'
import { edit } from '../../../store/editing'
import { useAppDispatch } from '../../../store/store'
import { withId } from '../../../store/useChange'
import { FrameDrawing } from './FrameDrawing'

interface FrameProps {
  readonly durations: readonly number[]
  readonly decoded: Decoded
}

interface TaughtProps extends FrameProps {
  readonly remote: Remote
  readonly picked: Key | undefined
}

/** A frame of a capture: drawn, in figures, and given to a key or a file. */
export function TaughtFrame({ durations, decoded, remote, picked }: TaughtProps) {
  const own = () => durations.slice(decoded.from, decoded.to)
  return (
    <div className="mt-2">
      <FrameDrawing durations={durations} decoded={decoded} />
      <Figures durations={durations} decoded={decoded} />
      <Doubt durations={durations} decoded={decoded} />
      <div className="mt-2 flex flex-wrap gap-1.5">
        <Teach decoded={decoded} remote={remote} picked={picked} />
        <button
          type="button"
          className="press-quiet"
          onClick={() => save('frame.txt', writePulseSpace(own()), 'text/plain')}
          aria-label="Save as pulse/space"
        >
          pulse/space
        </button>
        <button
          type="button"
          className="press-quiet"
          onClick={() => save('frame.vcd', writeVcd(own()), 'text/plain')}
          aria-label="Save as VCD"
        >
          VCD
        </button>
      </div>
    </div>
  )
}

/** A code of no known protocol whose lengths lie too close: it is said before a key is taught with it. */
function Doubt({ durations, decoded }: FrameProps) {
  if (decoded.frame.protocol !== 'unknown') return null
  const close = closeLengths({ list: durations, from: decoded.from, to: decoded.to })
  if (!close) return null
  return (
    <p role="alert" className="mt-1 border-l-3 border-warning pl-2 text-note">
      Two of its lengths, {close[0]} µs and {close[1]} µs, lie closer than 1.6 to 1: one press may be heard as another
      code than the next. Press the key five times or more into one capture, and teach it only if the same code comes
      each time.
    </p>
  )
}

function fitWords({ worst, tolerance, stretch }: NonNullable<Decoded['fit']>): string {
  const margin = ((tolerance - worst) / 10).toFixed(1)
  return (
    `worst ${worst / 10} % off, ${tolerance / 10} % are allowed: margin ${margin} %; ` +
    `marks stretched by ${stretch} µs`
  )
}

function Figures({ durations, decoded }: FrameProps) {
  const { frame, fit } = decoded
  const sent = bitsText(durations, decoded)
  const toggle = 'toggle' in frame && frame.toggle !== null ? `, toggle ${frame.toggle}` : ''
  return (
    <dl className="mt-1 grid grid-cols-[7rem_1fr] gap-x-3 text-note">
      <Figure name="code">
        <span className="font-mono font-semibold">{codeName(frame) + toggle}</span>
      </Figure>
      {'address' in frame && (
        <Figure name="address, command">
          <span className="font-mono">{`${frame.address}, ${frame.command}`}</span>
        </Figure>
      )}
      {sent && (
        <Figure name="bits as sent">
          <span className="font-mono">{sent}</span>
        </Figure>
      )}
      {fit && <Figure name="fit">{fitWords(fit)}</Figure>}
    </dl>
  )
}

function Figure({ name, children }: { name: string; children: ReactNode }) {
  return (
    <>
      <dt className="text-soft">{name}</dt>
      <dd>{children}</dd>
    </>
  )
}

function Teach({ decoded, remote, picked }: Omit<TaughtProps, 'durations'>) {
  const dispatch = useAppDispatch()
  const code = taughtCode(decoded)
  if (!code) return null
  const teach = (key: Key) =>
    dispatch(
      edit(`“${key.name}” is ${codeName(code)}`, (draft) => {
        const target = withId(withId(draft.remotes, remote.id)?.keys ?? [], key.id)
        if (target) target.code = code
      }),
    )
  const teachNew = () =>
    dispatch(
      edit(`a key for ${codeName(code)}`, (draft) => {
        addKey(draft, withId(draft.remotes, remote.id)!, `Key ${remote.keys.length + 1}`, code)
      }),
    )
  return (
    <>
      {picked && (
        <button type="button" className="press" onClick={() => teach(picked)}>
          Teach “{picked.name}”
        </button>
      )}
      <button type="button" className="press" onClick={teachNew}>
        Add key with this code
      </button>
    </>
  )
}
