import Papa from 'papaparse'

/** A table of a build (CSV, RFC 4180), to be read as one. */
export function CsvTable({ name, text }: { name: string; text: string }) {
  const [head = [], ...rows] = Papa.parse<string[]>(text.trim()).data
  return (
    <div className="max-h-[40rem] overflow-auto" role="region" aria-label={name} tabIndex={0}>
      <table className="sheet">
        <thead className="sticky top-0 bg-wall">
          <tr>
            {head.map((cell, i) => (
              <th key={i} className="whitespace-nowrap">
                {cell}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row, at) => (
            <tr key={at}>
              {row.map((cell, i) => (
                <td key={i} className="text-note">
                  {cell}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}
