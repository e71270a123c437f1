import { useState, type FormEvent } from 'react'
import type { Hub, Service } from '../../../../core/site'
import { usePicked } from '../../../parts/Sides'
import {
  addServiceKind,
  addServiceOfKind,
  keepServiceKind,
  readServiceKindFile,
  serviceKindIn,
  serviceKindsOf,
} from '../../../../core/services'
import { ChoiceField } from '../../../parts/fields'
import { FileField } from '../../../parts/FileField'
import { Fields, fieldsOf } from '../../../parts/form'
import { edit } from '../../../store/editing'
import { useAppDispatch, useAppSelector } from '../../../store/store'
import { useChange } from '../../../store/useChange'
import { ServiceDetail } from './ServiceDetail'

const DAY = [
  fieldsOf<{ changes: number }>().number('Changes per channel per day (assumed)', 'changes', {
    what: 'changes',
    least: 0,
    most: 10_000,
  }),
]

/** Services and hubs: what each kind holds and allows, how much of it the mapping uses, and the steps to set it up. */
export function ServicesTab() {
  const site = useAppSelector((state) => state.site.site)!
  const [picked, setPicked] = usePicked()
  const all: (Service | Hub)[] = [...site.services, ...site.hubs]
  const current = all.find(({ id }) => id === picked) ?? all[0]
  const changeDay = useChange('assumed day', (draft) => draft.day)
  return (
    <div className="grid @3xl:grid-cols-[11rem_1fr] gap-5">
      <div>
        <ServiceList all={all} current={current?.id ?? null} onPick={setPicked} />
        <AddService />
        <OwnKind />
        <div className="mt-3">
          <Fields rows={DAY} of={site.day} change={changeDay} />
        </div>
      </div>
      {current ? (
        <ServiceDetail key={current.id} item={current} />
      ) : (
        <p className="text-soft">No service yet. Fill the App or Hub column of the crossbar, or add one here.</p>
      )}
    </div>
  )
}

interface ListProps {
  readonly all: readonly (Service | Hub)[]
  readonly current: string | null
  readonly onPick: (id: string) => void
}

function ServiceList({ all, current, onPick }: ListProps) {
  const site = useAppSelector((state) => state.site.site)!
  return (
    <ul className="space-y-1">
      {all.map((item) => (
        <li key={item.id}>
          <button
            type="button"
            aria-pressed={current === item.id}
            className={
              'block w-full border-l-3 border-hair px-2 py-1 text-left hover:bg-panel ' +
              'aria-pressed:border-brass-fill aria-pressed:bg-panel'
            }
            onClick={() => onPick(item.id)}
          >
            <span className="block font-semibold">{item.name}</span>
            <span className="block text-small text-soft">{serviceKindIn(site, item.kind)?.name ?? item.kind}</span>
          </button>
        </li>
      ))}
    </ul>
  )
}

const FAMILIES = [
  ['service', 'service with points'],
  ['hub', 'hub with entities'],
  ['voice', 'voice bridge'],
] as const
type Family = (typeof FAMILIES)[number][0]

/** A kind of the maker's own, or one that another maker has exported. */
const OwnKind = () => (
  <details className="mt-3">
    <summary className="min-h-6 cursor-pointer text-note">Own kind of service</summary>
    <NewKind />
    <KindFile />
  </details>
)

function NewKind() {
  const dispatch = useAppDispatch()
  const [name, setName] = useState('')
  const [family, setFamily] = useState<Family>('service')
  const add = (event: FormEvent) => {
    event.preventDefault()
    dispatch(edit(`the kind ${name}`, (draft) => addServiceOfKind(draft, addServiceKind(draft, name, family))))
    setName('')
  }
  return (
    <form className="mt-1 space-y-2" onSubmit={add}>
      <label className="block">
        <span className="field-label">Name of kind</span>
        <input className="field" value={name} onChange={(event) => setName(event.target.value)} />
      </label>
      <ChoiceField<Family> label="Family" value={family} choices={FAMILIES} onKeep={setFamily} />
      <button type="submit" className="press" disabled={name.trim() === ''}>
        Add kind
      </button>
    </form>
  )
}

function KindFile() {
  const dispatch = useAppDispatch()
  const [wrong, setWrong] = useState<string | null>(null)
  const load = (text: string) => {
    const read = readServiceKindFile(text)
    setWrong('wrong' in read ? read.wrong : null)
    if ('kind' in read) dispatch(edit(`the kind ${read.kind.name}`, (draft) => keepServiceKind(draft, read.kind)))
  }
  return (
    <div className="mt-2">
      <FileField label="Kind file" accept=".json" onText={load} />
      {wrong && (
        <p role="alert" className="text-small text-error">
          {wrong}
        </p>
      )}
    </div>
  )
}

function AddService() {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const add = (kind: string) => {
    if (kind) dispatch(edit('a service', (draft) => addServiceOfKind(draft, kind)))
  }
  return (
    <label className="mt-3 block">
      <span className="field-label">Add service or hub</span>
      <select className="field" value="" onChange={(event) => add(event.target.value)}>
        <option value="">choose a kind …</option>
        {serviceKindsOf(site).map((kind) => (
          <option key={kind.id} value={kind.id}>
            {kind.name}
          </option>
        ))}
      </select>
    </label>
  )
}
