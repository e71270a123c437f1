import { useCallback, useMemo, useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { leavingSteps, type Leaving, type LeavingStep } from '../../../../core/outputs'
import { counted, type Controller, type Site } from '../../../../core/site'
import { ChoiceBar } from '../../../parts/ChoiceBar'
import { save } from '../../../parts/save'
import { useAsked } from '../../../parts/useAsked'
import { call } from '../../../store/api'
import { attempt } from '../../../store/attempt'
import { useAppSelector } from '../../../store/store'
import { OneController } from '../OneController'

const REASONS: Readonly<Record<Leaving, string>> = { died: 'the board died', gone: 'sold or given away' }

const concerns = ({ kind }: { kind: string }): boolean => kind === 'logbook' || kind === 'edit'

/** A board dies, or leaves: one walk through what to wire, lock out, flash, pair and test. */
export const AnotherBoard = () => (
  <OneController asks="Which board leaves its box?">
    {(controller) => <Leaves key={controller.id} controller={controller} />}
  </OneController>
)

function Leaves({ controller }: { controller: Controller }) {
  const site = useAppSelector((state) => state.site.site)!
  const [why, setWhy] = useState<Leaving>('died')
  return (
    <section aria-label="Another board" className="mt-3 max-w-3xl">
      <h2 className="rule-head">{controller.name}</h2>
      <div className="mt-2">
        <ChoiceBar label="Reason" choices={['died', 'gone']} words={REASONS} value={why} onPick={setWhy} />
      </div>
      <Steps key={why} site={site} controller={controller} why={why} />
    </section>
  )
}

function Steps({ site, controller, why }: { site: Site; controller: Controller; why: Leaving }) {
  const onBoard = useAppSelector((state) => state.logbook.boards).find((board) => board.controller === controller.id)
  const steps = useMemo(
    () => leavingSteps(site, controller, why, onBoard ? { number: onBoard.number, hash: onBoard.hash } : null),
    [site, controller, why, onBoard],
  )
  return (
    <ol className="mt-3">
      {steps.map((step, at) => (
        <li key={step.text} className="flex gap-3 border-b border-hair py-2">
          <span className="w-5 shrink-0 font-mono text-soft">{at + 1}</span>
          <span className="min-w-0 flex-1">
            {step.text}
            <StepPress step={step} site={site} controller={controller} why={why} />
          </span>
        </li>
      ))}
    </ol>
  )
}

interface PressProps {
  readonly step: LeavingStep
  readonly site: Site
  readonly controller: Controller
  readonly why: Leaving
}

function StepPress({ step: { press }, site, controller, why }: PressProps) {
  switch (press) {
    case 'connections':
      return (
        <Row>
          <Link className="press" to={`/${site.id}/paper?side=connections`}>
            Open the connection list
          </Link>
        </Row>
      )
    case 'lockOut':
      return <LockOut site={site} controller={controller} why={why} />
    case 'secrets':
      return <SecretsAgain site={site} controller={controller} />
    case 'pairing':
      return (
        <Row>
          <Link className="press" to={`/${site.id}/build`}>
            Pairing label on Build
          </Link>
        </Row>
      )
    case 'tests':
      return <TestsOfNew site={site} controller={controller} />
    case null:
      return null
  }
}

const Row = ({ children }: { children: React.ReactNode }) => (
  <span className="mt-1.5 flex flex-wrap items-center gap-2">{children}</span>
)

/** A press that cannot be taken back is asked for twice. */
function LockOut({ site, controller, why }: Omit<PressProps, 'step'>) {
  const [asked, setAsked] = useState(false)
  const [done, setDone] = useState<string | null>(null)
  const press = async () => {
    if (!asked) return setAsked(true)
    const answer = await attempt(call('replaceBoard', { site: site.id, controller: controller.id, body: { why } }))
    if (!answer) return
    setDone(
      answer.deleted > 0
        ? `Locked out; ${counted(answer.deleted, 'credential')} deleted. The logbook has it.`
        : 'Locked out. The logbook has it.',
    )
  }
  if (done) return <Row>{done}</Row>
  return (
    <Row>
      <button type="button" className="press" onClick={() => void press()}>
        {asked ? `Yes, lock ${controller.name} out now` : 'Lock the old board out'}
      </button>
      {asked && (
        <span className="text-note text-warning">The board goes offline at once, and undo does not bring it back.</span>
      )}
    </Row>
  )
}

function SecretsAgain({ site, controller }: { site: Site; controller: Controller }) {
  const download = async () => {
    const text = await attempt(call('secrets', { site: site.id, controller: controller.id }))
    if (text !== undefined) save('secrets.h', text, 'text/plain')
  }
  return (
    <Row>
      <button type="button" className="press" onClick={() => void download()}>
        Download secrets.h
      </button>
      <Link className="press" to={`/${site.id}/build`}>
        Open the build
      </Link>
    </Row>
  )
}

/** The shortest run that shows all that was unplugged. */
function TestsOfNew({ site, controller }: { site: Site; controller: Controller }) {
  const navigate = useNavigate()
  const ask = useCallback(
    () => call('newBoardTests', { site: site.id, controller: controller.id }),
    [site.id, controller.id],
  )
  const page = useAsked(ask, concerns)
  if (!page) return null
  const begin = async () => {
    const body = { controller: controller.id, only: page.again.map(({ key }) => key) }
    const answer = await attempt(call('newTestRun', { site: site.id, body }))
    if (answer) void navigate(`/${site.id}/handover?run=${answer.id}`)
  }
  return (
    <>
      <Row>
        <button type="button" className="press" disabled={page.again.length === 0} onClick={() => void begin()}>
          Start run of {counted(page.again.length, 'test')}
        </button>
        <span className="text-note text-soft">of {page.of}</span>
      </Row>
      <details className="mt-1 text-note">
        <summary className="min-h-6 cursor-pointer text-soft">The tests, and what each shows</summary>
        <ul>
          {page.again.map(({ key, action, why }) => (
            <li key={key} className="border-t border-hair py-0.5">
              {action} <span className="text-soft">({why.join(', ')})</span>
            </li>
          ))}
        </ul>
      </details>
    </>
  )
}
