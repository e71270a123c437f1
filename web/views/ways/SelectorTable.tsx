import type { SelectorInput } from '../../../core/site'
import { ChoiceField, TextField } from '../../parts/fields'
import { useChange, withId } from '../../store/useChange'

const BITS = ['1', '2', '3', '4'] as const

/** The level of each code; an empty field is a code that the switch does not make. */
export function SelectorTable({ input }: { input: SelectorInput }) {
  const change = useChange(input.name, (draft) => {
    const target = withId(draft.inputs, input.id)
    return target?.kind === 'selector' ? target : undefined
  })
  const setBits = (bits: number) =>
    change(`${bits} bits`, (target) => {
      target.bits = bits
      target.table = Array.from({ length: 2 ** bits }, (_, code) => target.table[code] ?? null)
    })
  const setLevel = (code: number, text: string) =>
    change(`code ${code}`, (target) => {
      target.table[code] = text.trim() === '' ? null : Number(text)
    })
  const bitsOf = (code: number): string => code.toString(2).padStart(input.bits, '0').split('').reverse().join('')
  return (
    <fieldset className="border-t border-hair pt-2">
      <legend className="sr-only">Selector</legend>
      <ChoiceField
        label="Contacts (bits)"
        value={String(input.bits) as (typeof BITS)[number]}
        choices={BITS.map((bits) => [bits, bits] as const)}
        onKeep={(bits) => setBits(Number(bits))}
      />
      <div className="mt-1.5 grid grid-cols-4 gap-1.5">
        {input.table.map((level, code) => (
          <TextField
            key={code}
            mono
            label={bitsOf(code)}
            value={level === null ? '' : String(level)}
            check={(text) => (/^[0-8]?$/.test(text.trim()) ? null : '0–8')}
            onKeep={(text) => setLevel(code, text)}
          />
        ))}
      </div>
      <p className="mt-0.5 text-small text-soft">bit 1 first: 1 is closed. Level of each code.</p>
    </fieldset>
  )
}
