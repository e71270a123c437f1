import { DropdownMenu } from 'radix-ui'
import { useEffect, useMemo, useState } from 'react'
import { boardIn } from '../../../core/boards'
import { narrowed, type Input, type Site } from '../../../core/site'
import type { TrialAction } from '../../../core/trial'
import { save } from '../../parts/save'
import { isTyping } from '../../parts/typing'
import { ViewHead } from '../../parts/ViewHead'
import { call } from '../../store/api'
import { attempt } from '../../store/attempt'
import { selectShown } from '../../store/selection'
import { useAppSelector } from '../../store/store'
import type { TrialFrame } from '../../workers/trialRun'
import { Breakers } from './Breakers'
import { HubPanel } from './HubPanel'
import { Links } from './Links'
import { Loads } from './Loads'
import type { TrialPart } from './parts'
import { Phone } from './Phone'
import { Remotes } from './Remotes'
import { Standing } from '../../parts/Standing'
import { RunPanel } from './timeline/RunPanel'
import { Transport } from './Transport'
import { useTrial, type Hold } from './useTrial'
import { Voice } from './Voice'
import { WallPlate } from './WallPlate'
import { Weather } from './Weather'

/** The same controllers in a simulated house: press, tap, break things, and see what each screen believes. */
export function SimulatedHouse() {
  const whole = useAppSelector((state) => state.site.site)!
  const controller = useAppSelector(selectShown)
  // a controller without a board profile cannot be simulated
  const plot = useMemo(
    () => ({ whole, controller, part: narrowed(whole, controller, (board) => boardIn(whole, board) !== undefined) }),
    [whole, controller],
  )
  const site = plot.part
  const { frame, act, hold } = useTrial(plot)
  const [isLarge, setLarge] = useState(false)
  useSwitchKeys(site, act)
  useTimeKeys(hold, frame?.pace ?? 0)
  if (site.channels.length === 0) return <NothingToTry />
  if (!frame)
    return (
      <p className="p-6 text-soft" role="status">
        Starting the simulation …
      </p>
    )
  const { snapshot } = frame
  return (
    <div className="flex flex-col px-5 pt-2 @3xl:h-full" data-testid="trial">
      <TrialHead frame={frame} hold={hold} />
      <div className="mt-1.5 flex flex-wrap items-center justify-between gap-x-4 gap-y-1.5">
        <Transport frame={frame} hold={hold} />
        <Standing place={snapshot.place} onPick={(place) => act({ kind: 'stand', place })} />
      </div>
      <Breakers site={site} snapshot={snapshot} act={act} />
      {!isLarge && <House site={site} snapshot={snapshot} act={act} />}
      <RunPanel frame={frame} hold={hold} isLarge={isLarge} onLarge={setLarge} />
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

/** Time by keyboard: pause and play, and from deed to deed. */
function useTimeKeys(hold: Hold, pace: number): void {
  useEffect(() => {
    const keys: Record<string, () => void> = {
      p: () => hold.play(pace > 0 ? 0 : 1),
      ',': () => hold.step(-1),
      '.': () => hold.step(1),
    }
    const listen = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || isTyping(event.target)) return
      keys[event.key]?.()
    }
    window.addEventListener('keydown', listen)
    return () => window.removeEventListener('keydown', listen)
  }, [hold, pace])
}

function TrialHead({ frame, hold }: { frame: TrialFrame; hold: Hold }) {
  const { id, name } = useAppSelector((state) => state.site.site!)
  const { timeline } = frame.snapshot
  const keep = () => {
    const body = { durationMs: Math.round(frame.now), timeline: [...timeline] }
    void attempt(call('newTrial', { site: id, body }), 'Run saved in the logbook')
  }
  const files: readonly (readonly [label: string, file: string, type: string, text: () => Promise<string>])[] = [
    ['Scenario (YAML)', `${id}-scenario.yaml`, 'text/yaml', () => hold.asScenario(`Recorded in ${name}`)],
    ['Wave file (VCD)', `${id}-run.vcd`, 'text/plain', hold.asWave],
    ['Table (CSV)', `${id}-run.csv`, 'text/csv', hold.asTable],
  ]
  return (
    <ViewHead title="Trial" note="The firmware’s own tables in a simulated house. Nothing here touches a real wire.">
      <DropdownMenu.Root modal={false}>
        <DropdownMenu.Trigger className="press">Export run …</DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content align="end" className="z-30 border-2 border-ink bg-panel py-1">
            {files.map(([label, file, type, text]) => (
              <DropdownMenu.Item
                key={file}
                className="cursor-pointer px-3 py-1 outline-none data-[highlighted]:bg-ink data-[highlighted]:text-wall"
                onSelect={() => void text().then((content) => save(file, content, type))}
              >
                {label}
              </DropdownMenu.Item>
            ))}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      <button type="button" className="press" onClick={hold.restart}>
        Restart
      </button>
      <button type="button" className="press" onClick={keep} disabled={timeline.length === 0}>
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
