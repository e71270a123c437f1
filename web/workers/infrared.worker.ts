import { expose } from 'comlink'
import { CaptureRefused, decodeCapture, readCapture, type CaptureFormat, type Decoded } from '../../core/infrared'

/** Captures can hold millions of edges: they are read and decoded away from the page. */
export type Heard =
  | {
      readonly ok: true
      readonly format: CaptureFormat
      readonly durations: readonly number[]
      readonly frames: readonly Decoded[]
      readonly milliseconds: number
    }
  | { readonly ok: false; readonly message: string }

const MOST_FRAMES = 500

const infrared = {
  read(text: string): Heard {
    const start = performance.now()
    try {
      const { durations, format } = readCapture(text)
      return {
        ok: true,
        format,
        durations,
        frames: decodeCapture(durations).slice(0, MOST_FRAMES),
        milliseconds: performance.now() - start,
      }
    } catch (error) {
      if (error instanceof CaptureRefused) return { ok: false, message: error.message }
      throw error
    }
  },
}
export type InfraredWorker = typeof infrared

expose(infrared)
