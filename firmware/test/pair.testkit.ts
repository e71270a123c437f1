import { createDevice, eventOf, type DeviceEvent, type DeviceOutput, type TraceLine } from '../../core/device'
import type { ControllerImage } from '../../core/image'

/** Both boards of a pair by the interpreter, with a line between them that takes its time. */

export interface PairRun {
  /** what each board was told, as a trace that any engine can play */
  readonly main: readonly TraceLine[]
  readonly mirror: readonly TraceLine[]
  readonly mainOutputs: readonly DeviceOutput[]
  readonly mirrorOutputs: readonly DeviceOutput[]
}

/**
 * Plays what happens to the main board and to its coprocessor, ms by ms, until `until`. A character takes ten bits on
 * the line (a start, eight, a stop); what has come in a millisecond counts from the next one on.
 */
export function playPair(
  image: ControllerImage,
  toMain: readonly TraceLine[],
  toMirror: readonly TraceLine[],
  until: number,
): PairRun {
  const main = createDevice(image)
  const mirror = createDevice(image, 'mirror')
  const lineMs = (characters: number): number => Math.ceil((characters * 10_000) / image.serial!.baud) + 1
  const waiting: { to: 'main' | 'mirror'; line: TraceLine }[] = [
    ...toMain.map((line) => ({ to: 'main' as const, line })),
    ...toMirror.map((line) => ({ to: 'mirror' as const, line })),
  ]
  const told = { main: [] as TraceLine[], mirror: [] as TraceLine[] }
  const outputs = { main: [] as DeviceOutput[], mirror: [] as DeviceOutput[] }
  for (let t = 0; t <= until; t++) {
    for (const [part, device] of [
      ['main', main],
      ['mirror', mirror],
    ] as const) {
      const now = waiting.filter((item) => item.to === part && item.line.t === t).map((item) => item.line)
      told[part].push(...now)
      const events = now
        .map((line) => eventOf(image, line))
        .filter((event): event is DeviceEvent => event !== undefined)
      if (t === 0) events.unshift({ kind: 'power', on: true })
      for (const output of device.advance(t, events)) {
        outputs[part].push(output)
        if (part === 'main' && 'line' in output)
          waiting.push({ to: 'mirror', line: { t: t + lineMs(output.line.length + 1), line: output.line } })
        if (part === 'mirror' && 'char' in output)
          waiting.push({ to: 'main', line: { t: t + lineMs(1), char: output.char } })
      }
    }
  }
  const whole = (lines: TraceLine[]): TraceLine[] => [{ t: 0, power: 'on' }, ...lines, { t: until, end: true }]
  return {
    main: whole(told.main),
    mirror: whole(told.mirror),
    mainOutputs: outputs.main,
    mirrorOutputs: outputs.mirror,
  }
}
