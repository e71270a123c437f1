import type { Capability, GpioSpot, PowerSpot } from './schema'

/** A pin that carries power, ground or reset. V; null: a control line. */
export const power = (label: string, volts: number | null, note?: string): PowerSpot =>
  note ? { kind: 'power', label, volts, note } : { kind: 'power', label, volts }

/** Makes the GPIO spots of a board, which can usually all do the same. */
export const gpioWith =
  (can: Capability[]) =>
  (label: string, number: number, more: Partial<GpioSpot> = {}): GpioSpot => ({
    kind: 'gpio',
    label,
    gpio: number,
    can,
    ...more,
  })
