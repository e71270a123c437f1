import { connect } from 'node:net'
import type { RigPaired } from '../core/api'
import { pairingGreeting, readPairingAnswer } from '../core/wires'

const LONGEST_MS = 5_000

/**
 * The phone beside a controller that is ready to pair: says the PIN of its label, and then what the controller needs.
 * `lines` end with "end". Nothing is said to a controller that is not the one that the label names.
 */
export function pairOver(port: number, pin: string, board: string, lines: readonly string[]): Promise<RigPaired> {
  return new Promise((resolve) => {
    const socket = connect(port, '127.0.0.1')
    let rest = ''
    const ends = (how: RigPaired): void => {
      clearTimeout(late)
      socket.destroy()
      resolve(how)
    }
    const late = setTimeout(() => ends({ kind: 'silent' }), LONGEST_MS)
    socket.once('connect', () => socket.write(pairingGreeting(pin)))
    socket.on('error', () => ends({ kind: 'silent' }))
    socket.once('close', () => ends({ kind: 'silent' }))
    socket.on('data', (data) => {
      const parts = (rest + data.toString()).split('\n')
      rest = parts.pop()!
      for (const part of parts) {
        const answer = readPairingAnswer(part)
        if (answer?.kind === 'known' && answer.board === board) socket.write(`${lines.join('\n')}\n`)
        else return ends(answer && answer.kind !== 'known' ? answer : { kind: 'silent' })
      }
    })
  })
}
