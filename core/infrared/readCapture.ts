import { CaptureRefused, type Capture } from './capture'
import { readLogicCsv } from './logicCsv'
import { readPulseSpace } from './pulseSpace'
import { readRawList } from './rawList'
import { readVcd } from './vcd'

export const CAPTURE_FORMATS = ['raw list', 'pulse/space', 'VCD', 'logic CSV'] as const
export type CaptureFormat = (typeof CAPTURE_FORMATS)[number]

/** The format of a capture's text, by what it holds rather than by its name. */
export function formatOf(text: string): CaptureFormat {
  if (/\$timescale|\$enddefinitions/.test(text)) return 'VCD'
  const lines = text
    .split('\n')
    .map((line) => line.replace(/#.*/, '').trim())
    .filter((line) => line !== '')
  if (lines.some((line) => /^(pulse|space)\b/.test(line))) return 'pulse/space'
  if (lines[0] && /^\D*time/i.test(lines[0])) return 'logic CSV'
  // two or more columns, the last one of zeros and ones only
  const rows = lines.slice(0, 200).map((line) => line.split(/[,;\t]/).map((cell) => cell.trim()))
  if (rows.length > 2 && rows.slice(1).every((row) => row.length >= 2 && row.length <= 17 && /^[01]$/.test(row[1]!)))
    return 'logic CSV'
  return 'raw list'
}

/** Reads a capture in any of the formats. Throws CaptureRefused; an empty capture is refused too. */
export function readCapture(text: string): Capture & { readonly format: CaptureFormat } {
  const format = formatOf(text)
  const capture = {
    'raw list': readRawList,
    'pulse/space': readPulseSpace,
    VCD: (dump: string) => readVcd(dump),
    'logic CSV': (table: string) => readLogicCsv(table),
  }[format](text)
  if (capture.durations.length === 0) throw new CaptureRefused(`nothing is heard in it (read as ${format})`)
  return { ...capture, format }
}
