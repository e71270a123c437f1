import type { TrialPart } from './parts'

/** The switches of the wall, by room; a push goes in while it is held, a rocker stays where it was rocked. */
export function WallPlate({ site, snapshot, act }: TrialPart) {
  const rooms = [...new Set(site.inputs.map((input) => input.room))]
  return (
    <section aria-label="Wall">
      <h2 className="rule-head">Wall</h2>
      {site.inputs.length === 0 && <p className="mt-2 text-soft">No switch on any wall.</p>}
      {rooms.map((room) => (
        <div key={room ?? ''} className="mt-2">
          <p className="text-small text-soft">{site.rooms.find((candidate) => candidate.id === room)?.name ?? 'No room'}</p>
          <div className="mt-1 flex flex-wrap gap-2">
            {site.inputs.map((input, number) => {
              if (input.room !== room) return null
              const closed = snapshot.closed[input.id] === true
              const works = site.ways.flatMap((way) => (way.kind === 'wall' && way.input === input.id ? [site.channels.find((c) => c.id === way.channel)?.name ?? ''] : []))
              const says = `${input.name}, ${works.join(', ') || 'works nothing'}`
              return (
                <div key={input.id} className="w-24 text-center">
                  {input.kind === 'momentary' ? (
                    <button
                      type="button"
                      aria-label={`Press ${says}`}
                      aria-pressed={closed}
                      data-switch={input.id}
                      className="mx-auto flex h-20 w-16 items-center justify-center rounded-md border-2 border-ink bg-panel"
                      onPointerDown={(event) => { event.currentTarget.setPointerCapture(event.pointerId); act({ kind: 'press', input: input.id }) }}
                      onPointerUp={() => act({ kind: 'release', input: input.id })}
                      onPointerCancel={() => act({ kind: 'release', input: input.id })}
                      onKeyDown={(event) => { if ((event.key === ' ' || event.key === 'Enter') && !event.repeat) { event.preventDefault(); act({ kind: 'press', input: input.id }) } }}
                      onKeyUp={(event) => { if (event.key === ' ' || event.key === 'Enter') act({ kind: 'release', input: input.id }) }}
                      onBlur={() => closed && act({ kind: 'release', input: input.id })}
                    >
                      <span className={`block rounded-full border-2 border-ink ${closed ? 'size-8 bg-brass-fill' : 'size-10 bg-wall'}`} />
                    </button>
                  ) : (
                    <button type="button" aria-label={`Rock ${says}`} aria-pressed={closed} data-switch={input.id} className="mx-auto flex h-20 w-16 flex-col overflow-hidden rounded-md border-2 border-ink bg-panel" onClick={() => act({ kind: 'rock', input: input.id })}>
                      <span className={`flex w-full flex-1 items-center justify-center font-mono text-note ${closed ? 'bg-bus/50' : ''}`}>I</span>
                      <span className="h-px w-full bg-ink" />
                      <span className={`flex w-full flex-1 items-center justify-center font-mono text-note ${closed ? '' : 'bg-bus/50'}`}>O</span>
                    </button>
                  )}
                  <p className="mt-1 text-small leading-tight">
                    <span className="font-semibold">{input.name}</span> {number < 9 && <kbd className="rounded-plate border border-bus px-0.5 font-mono text-[0.625rem]">{number + 1}</kbd>}
                    <span className="block text-soft">{works.join(', ') || 'works nothing'}</span>
                  </p>
                </div>
              )
            })}
          </div>
        </div>
      ))}
    </section>
  )
}
