import { useEffect, useMemo } from 'react'
import { boardIn } from '../../../core/boards'
import { narrowed, type Input, type Site } from '../../../core/site'
import type { TrialAction, TrialSnapshot } from '../../../core/trial'
import { isTyping } from '../../parts/typing'
import { call } from '../../store/api'
import { attempt } from '../../store/attempt'
import { useAppSelector } from '../../store/store'
import { Breakers } from './Breakers'
import { HubPanel } from './HubPanel'
import { Links } from './Links'
import { Loads } from './Loads'
import type { TrialPart } from './parts'
import { Phone } from './Phone'
import { Remotes } from './Remotes'
import { TimeLine } from './TimeLine'
import { Voice } from './Voice'
import { WallPlate } from './WallPlate'
import { Weather } from './Weather'
import { useTrial } from './useTrial'

/** The same controllers in a simulated house: press, tap, break things, and see what each screen believes. */
export function TrialView() {
  const whole = useAppSelector((state) => state.site.site)!
  const controller = useAppSelector((state) => state.screen.controller)
  // a controller without a board profile cannot be simulated
  const plot = useMemo(
    () => ({ whole, controller, part: narrowed(whole, controller, (board) => boardIn(whole, board) !== undefined) }),
    [whole, controller],
  )
  const site = plot.part
  const { snapshot, act, restart } = useTrial(plot)
  useSwitchKeys(site, act)
  if (site.channels.length === 0) return <NothingToTry />
  if (!snapshot)
    return (
      <p className="p-6 text-soft" role="status">
        The house is being put up …
      </p>
    )
  return (
    <div className="flex h-full flex-col px-5 pt-4" data-testid="trial">
      <TrialHead snapshot={snapshot} restart={restart} />
      <Breakers site={site} snapshot={snapshot} act={act} />
      <House site={site} snapshot={snapshot} act={act} />
      <TimeLine snapshot={snapshot} />
    </div>
  )
}

function NothingToTry() {
  return (
    <div className="px-5 py-4">
      <h1 className="text-view font-bold">Trial</h1>
      <p className="mt-2 text-soft">Nothing to try yet: a channel and a way in are needed.</p>
    </div>
  )
}

/** What a key with a switch's number does to it: a push goes in and out with the key, a rocker goes over. */
function switchMoved(input: Input, down: boolean): TrialAction | undefined {
  if (input.kind === 'momentary') return { kind: down ? 'press' : 'release', input: input.id }
  return input.kind === 'rocker' && down ? { kind: 'rock', input: input.id } : undefined
}

function useSwitchKeys(site: Site, act: TrialPart['act']): void {
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (!/^[1-9]$/.test(event.key) || event.repeat || isTyping(event.target)) return
      const input = site.inputs[Number(event.key) - 1]
      const action = input && switchMoved(input, event.type === 'keydown')
      if (action) act(action)
    }
    window.addEventListener('keydown', listen)
    window.addEventListener('keyup', listen)
    return () => {
      window.removeEventListener('keydown', listen)
      window.removeEventListener('keyup', listen)
    }
  }, [site, act])
}

function TrialHead({ snapshot, restart }: { snapshot: TrialSnapshot; restart: () => void }) {
  const site = useAppSelector((state) => state.site.site!.id)
  const keep = () => {
    const body = { durationMs: Math.round(snapshot.now), timeline: [...snapshot.timeline] }
    void attempt(call('newTrial', { site, body }), 'Kept in the logbook')
  }
  return (
    <div className="flex items-baseline gap-4">
      <h1 className="text-view font-bold">Trial</h1>
      <p className="text-note text-soft">
        The firmware’s own tables, in a simulated house. Nothing here touches a real wire.
      </p>
      <div className="ml-auto flex gap-2">
        <button type="button" className="press" onClick={restart}>
          Begin anew
        </button>
        <button type="button" className="press" onClick={keep} disabled={snapshot.timeline.length === 0}>
          Keep this run
        </button>
      </div>
    </div>
  )
}

/** What hands work, what is, and what screens show. */
function House(part: TrialPart) {
  return (
    <div
      className={
        'mt-3 grid min-h-0 flex-1 gap-5 overflow-auto pb-3 ' +
        'grid-cols-[minmax(13rem,1fr)_minmax(14rem,1.2fr)_minmax(13rem,0.9fr)]'
      }
    >
      <div className="space-y-4">
        <WallPlate {...part} />
        <Remotes {...part} />
        <Voice {...part} />
        <Links {...part} />
      </div>
      <Loads site={part.site} snapshot={part.snapshot} />
      <div className="space-y-4">
        <Phone {...part} />
        <Weather {...part} />
        <HubPanel {...part} />
      </div>
    </div>
  )
}
