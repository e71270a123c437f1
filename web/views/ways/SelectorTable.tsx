import type { SelectorInput } from '../../../core/site'
import { ChoiceField, TextField } from '../../parts/fields'
import { useAppSelector } from '../../store/store'
import { useChange, withId } from '../../store/useChange'

const BITS = ['1', '2', '3', '4'] as const

const bitsOf = (code: number, bits: number): string => code.toString(2).padStart(bits, '0').split('').reverse().join('')

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
            label={bitsOf(code, input.bits)}
            value={level === null ? '' : String(level)}
            check={(text) => (/^[0-8]?$/.test(text.trim()) ? null : '0–8')}
            onKeep={(text) => setLevel(code, text)}
          />
        ))}
      </div>
      <p className="mt-0.5 mb-1.5 text-small text-soft">Level of each code; bit 1 first, 1 = closed.</p>
      <GateField input={input} />
    </fieldset>
  )
}

/** A switch before the selector: turned while that is open, it starts nothing. */
function GateField({ input }: { input: SelectorInput }) {
  const rockers = useAppSelector((state) => state.site.site!.inputs).filter(
    (one) => one.controller === input.controller && one.kind === 'rocker',
  )
  const change = useChange(input.name, (draft) => {
    const target = withId(draft.inputs, input.id)
    return target?.kind === 'selector' ? target : undefined
  })
  const setGate = (id: string) =>
    change('switch before it', (target) => {
      if (id === '') delete target.gate
      else target.gate = id as NonNullable<SelectorInput['gate']>
    })
  return (
    <ChoiceField
      label="Active only while this is closed"
      value={(input.gate ?? '') as string}
      choices={[['', 'always'], ...rockers.map((one) => [one.id as string, one.name] as const)]}
      onKeep={setGate}
    />
  )
}
