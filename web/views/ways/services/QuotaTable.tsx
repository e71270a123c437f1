import { useState } from 'react'
import type { Quota, QuotaRow } from '../../../../core/services'

const FIRST = 8
const HEADS = [
  ['what', ''],
  ['why', ''],
  ['per day', 'text-right'],
  ['kB per month', 'text-right'],
  ['share', 'w-40 pl-3'],
] as const

/** Messages and bytes of each way, with its share drawn. */
export function QuotaTable({ quota }: { quota: Quota }) {
  const rows = [...quota.rows].sort((a, b) => b.share - a.share)
  const [most, setMost] = useState(FIRST)
  const megabytes = (quota.bytesPerMonth / 1e6).toFixed(1)
  return (
    <section aria-label={`Use of ${quota.name}`}>
      <h2 className="rule-head">
        {`${quota.name}: ${quota.perDay.toLocaleString('en')} messages per day, ${megabytes} MB per month`}
      </h2>
      <table className="mt-1 w-full text-note">
        <thead className="text-left text-small text-soft">
          <tr>
            {HEADS.map(([head, looks]) => (
              <th key={head} className={`${looks} font-normal`}>
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.slice(0, most).map((row, i) => (
            <Line key={i} row={row} />
          ))}
        </tbody>
      </table>
      {rows.length > most && (
        <button type="button" className="press-quiet -ml-1.5" onClick={() => setMost(rows.length)}>
          {rows.length - most} more
        </button>
      )}
    </section>
  )
}

function Line({ row }: { row: QuotaRow }) {
  return (
    <tr className="border-t border-hair">
      <td>{row.name}</td>
      <td className="text-soft">{row.reason}</td>
      <td className="text-right font-mono">{row.perDay.toLocaleString('en')}</td>
      <td className="text-right font-mono">{Math.round(row.bytesPerMonth / 1000).toLocaleString('en')}</td>
      <td className="pl-3">
        <span className="flex items-center gap-1.5">
          <span className="block h-2 bg-brass-fill" style={{ width: `${Math.max(1, row.share * 100)}px` }} />{' '}
          <span className="font-mono text-small">{(row.share * 100).toFixed(1)} %</span>
        </span>
      </td>
    </tr>
  )
}
