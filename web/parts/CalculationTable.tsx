import { figure, type Calculation } from '../../core/electrics'

/** Calculation results with their formulas and where the numbers come from. */
export function CalculationTable({ rows, caption }: { rows: readonly Calculation[]; caption: string }) {
  return (
    <table className="sheet w-full">
      <caption className="sr-only">{caption}</caption>
      <thead>
        <tr>
          <th>what</th>
          <th className="!text-right">result</th>
          <th>worked</th>
          <th>from</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={row.name}>
            <td className="font-semibold">{row.name}</td>
            <td className="text-right font-mono whitespace-nowrap">
              {figure(row.value)} {row.unit}
            </td>
            <td className="font-mono text-[0.75rem]">{row.formula}</td>
            <td className="text-small text-soft">{row.source}</td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}
