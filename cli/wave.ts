import { CaptureRefused, vcdVariables } from '../core/infrared'
import { bounceOf, overlay, waveEdges, type TimedEdge } from '../core/measures'
import { Unusable, type Answer, type Source } from './commands'

/** What a capture of a switch says of its bounce, and the settle time that it needs. */
export function bounce(source: Source, signal: string | undefined, json: boolean): Answer {
  const found = bounceOf(edgesOf(source, signal))
  if (!found) throw new Unusable(`${source.name}: nothing moves in it`)
  if (json) return { exit: 0, text: `${JSON.stringify(found, null, 2)}\n` }
  const { movements, longestMs, medianMs, mostEdges, settleMs } = found
  return {
    exit: 0,
    text:
      `${movements} movements, ${mostEdges} edges at most; bounce ${medianMs.toFixed(2)} ms in the middle, ` +
      `${longestMs.toFixed(2)} ms at most: a settle time of ${settleMs} ms\n`,
  }
}

/** Lays a capture of a real board over a run; exit 1 where one has an edge that the other has not. */
export function lay(capture: Source, signal: string, run: Source, lane: string, json: boolean): Answer {
  const found = overlay(edgesOf(run, lane), edgesOf(capture, signal))
  const exit = found.shiftMs === null || found.onlyRun.length + found.onlyCapture.length > 0 ? 1 : 0
  if (json) return { exit, text: `${JSON.stringify(found, null, 2)}\n` }
  if (found.shiftMs === null) return { exit, text: 'no edge of the one fits an edge of the other\n' }
  const odd = (who: string, edges: readonly TimedEdge[]): string =>
    edges.map(({ t, level }) => `only ${who}: ${level ? 'up' : 'down'} at ${t.toFixed(1)} ms\n`).join('')
  return {
    exit,
    text:
      `the capture lies ${found.shiftMs.toFixed(1)} ms before the run: ${found.matched} edges match, ` +
      `${found.worstMs.toFixed(1)} ms apart at most\n${odd('in the run', found.onlyRun)}${odd('in the capture', found.onlyCapture)}`,
  }
}

function edgesOf({ name, text }: Source, signal: string | undefined): TimedEdge[] {
  try {
    return waveEdges(text, signal)
  } catch (error) {
    if (!(error instanceof CaptureRefused)) throw error
    const known = vcdVariables(text).map((variable) => variable.name)
    throw new Unusable(
      `${name}: ${error.message}${known.length > 0 && signal === undefined ? `; it has ${known.join(', ')}` : ''}`,
    )
  }
}
