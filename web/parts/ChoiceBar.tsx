interface Props<T extends string> {
  /** what is chosen, before the choices: "You are" */
  readonly label: string
  readonly choices: readonly T[]
  readonly words: Readonly<Record<T, string>>
  readonly value: T
  readonly onPick: (choice: T) => void
}

/** A few choices side by side, of which one holds. */
export const ChoiceBar = <T extends string>({ label, choices, words, value, onPick }: Props<T>) => (
  <span role="group" aria-label={label} className="flex flex-wrap items-center gap-y-1">
    <span className="mr-1.5 text-small text-soft">{label}</span>
    {choices.map((one) => (
      <button
        key={one}
        type="button"
        aria-pressed={value === one}
        className={
          // each has its own border, one over the other: a second line begins with one too
          '-ml-px min-h-7 border border-ink px-2 text-note first-of-type:rounded-l-plate last:rounded-r-plate ' +
          'aria-pressed:bg-ink aria-pressed:text-wall'
        }
        onClick={() => onPick(one)}
      >
        {words[one]}
      </button>
    ))}
  </span>
)
