import { useEffect, useMemo } from 'react'
import { boardIn } from '../../../core/boards'
import { narrowed, type Input, type Site } from '../../../core/site'
import type { TrialAction, TrialSnapshot } from '../../../core/trial'
import { isTyping } from '../../parts/typing'
import { call } from '../../store/api'
import { attempt } from '../../store/attempt'
import { side, SideTabs, SideView, useSide } from '../../parts/Sides'
import { ViewHead } from '../../parts/ViewHead'
import { selectShown } from '../../store/selection'
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

/** A simulated house, and beside it the firmware itself as processes of this machine. */
const SIDES = [
  { id: 'house', name: 'Simulated house', View: SimulatedHouse },
  side('rig', 'Live rig', async () => (await import('./rig/Rig')).Rig),
]

export function TrialView() {
  const [current, pick] = useSide(SIDES)
  return (
    <div className="flex flex-col pt-2 @3xl:h-full">
      <div className="px-5">
        <SideTabs label="Sides of the trial" sides={SIDES} current={current.id} onPick={pick} />
      </div>
      <div className="@3xl:min-h-0 @3xl:flex-1 @3xl:overflow-auto">
        <SideView side={current} />
      </div>
    </div>
  )
}

/** The same controllers in a simulated house: press, tap, break things, and see what each screen believes. */
function SimulatedHouse() {
  const whole = useAppSelector((state) => state.site.site)!
  const controller = useAppSelector(selectShown)
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
        Starting the simulation …
      </p>
    )
  return (
    <div className="flex flex-col px-5 pt-2 @3xl:h-full" data-testid="trial">
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
      <ViewHead title="Trial" note="Nothing to try yet: add a channel on the bench, and a way in to it." />
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
    void attempt(call('newTrial', { site, body }), 'Run saved in the logbook')
  }
  return (
    <ViewHead title="Trial" note="The firmware’s own tables in a simulated house. Nothing here touches a real wire.">
      <button type="button" className="press" onClick={restart}>
        Restart
      </button>
      <button type="button" className="press" onClick={keep} disabled={snapshot.timeline.length === 0}>
        Save run
      </button>
    </ViewHead>
  )
}

/** What hands work, what is, and what screens show. */
function House(part: TrialPart) {
  return (
    <div
      className={
        'mt-3 grid gap-5 pb-3 @3xl:min-h-0 @3xl:flex-1 @3xl:overflow-auto ' +
        '@3xl:grid-cols-[minmax(13rem,1fr)_minmax(14rem,1.2fr)_minmax(13rem,0.9fr)]'
      }
    >
      <div className="min-w-0 space-y-4">
        <WallPlate {...part} />
        <Remotes {...part} />
        <Voice {...part} />
        <Links {...part} />
      </div>
      <Loads site={part.site} snapshot={part.snapshot} />
      <div className="min-w-0 space-y-4">
        <Phone {...part} />
        <Weather {...part} />
        <HubPanel {...part} />
      </div>
    </div>
  )
}
