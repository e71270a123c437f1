import { useRef, useState, type FormEvent } from 'react'
import { MAINS_CHOICES, type Site } from '../../../core/site'
import { SiteList } from './SiteList'
import { useDoor } from './useDoor'

/** The door: sites there are, a new one, one from a file. */
export function SitesView() {
  const door = useDoor()
  const { error, create, open } = door
  return (
    <main className="mx-auto max-w-4xl px-8 py-14">
      <h1 className="text-[2rem] leading-tight font-bold">Vestibule</h1>
      <p className="mt-1 text-head text-soft">
        Every way in to every channel: planned, proved, and on record before mains goes on.
      </p>
      {error && (
        <p role="alert" className="mt-5 border-2 border-error px-3 py-2 text-error">
          {error}
        </p>
      )}
      <div className="mt-10 grid grid-cols-[1fr_17rem] gap-12">
        <SiteList door={door} />
        <section aria-label="A new site">
          <h2 className="rule-head">A new site</h2>
          <NameSite onName={(name, mains) => void create({ name, mains })} />
          <OpenFile onPick={(file) => void open(file)} />
        </section>
      </div>
      <p className="mt-14 border-t border-hair pt-3 text-note text-soft">
        Mains can kill and burn. Supply off and proved dead before opening a box, covers on before power, a licensed
        electrician where the law asks for one. Local code decides.
      </p>
    </main>
  )
}

/** A new site begins with its name and what comes out of its walls: sums, colours and box rules follow from that. */
function NameSite({ onName }: { onName: (name: string, mains: Site['mains']) => void }) {
  const [name, setName] = useState('')
  const [mains, setMains] = useState('')
  const picked = MAINS_CHOICES.find(([key]) => key === mains)?.[2]
  const submit = (event: FormEvent) => {
    event.preventDefault()
    if (name.trim() && picked) onName(name.trim(), picked)
  }
  return (
    <form className="mt-3 space-y-2" onSubmit={submit}>
      <div>
        <label className="field-label" htmlFor="site-name">
          Name of the house or room
        </label>
        <input
          id="site-name"
          className="field"
          value={name}
          maxLength={60}
          onChange={(event) => setName(event.target.value)}
        />
      </div>
      <MainsChoice value={mains} onPick={setMains} />
      <button type="submit" className="press-main" disabled={!name.trim() || !picked}>
        Make the site
      </button>
    </form>
  )
}

function OpenFile({ onPick }: { onPick: (file: File | undefined) => void }) {
  const file = useRef<HTMLInputElement>(null)
  return (
    <>
      <p className="mt-6 text-note text-soft">
        Or open a site file (JSON). It is checked whole before anything is kept.
      </p>
      <input
        ref={file}
        type="file"
        accept="application/json,.json"
        className="sr-only"
        aria-label="Site file"
        tabIndex={-1}
        onChange={(event) => onPick(event.target.files?.[0])}
      />
      <button type="button" className="press mt-2" onClick={() => file.current?.click()}>
        Open a site file
      </button>
    </>
  )
}

function MainsChoice({ value, onPick }: { value: string; onPick: (key: string) => void }) {
  return (
    <div>
      <label className="field-label" htmlFor="site-mains">
        Its mains
      </label>
      <select id="site-mains" className="field" value={value} onChange={(event) => onPick(event.target.value)}>
        <option value="">choose: what the meter says</option>
        {MAINS_CHOICES.map(([key, words]) => (
          <option key={key} value={key}>
            {words}
          </option>
        ))}
      </select>
    </div>
  )
}
