import { filledText } from './plain'
import type { ControllerWires, LinkWire, Text } from './types'

/**
 * Pairing (docs/wires.md): what the phone says to a controller that is ready to pair, line by line, and what its
 * answers mean. The board's side is firmware/wires/pairing.cpp.
 */

/** What the controller answered. */
export type PairingAnswer =
  /** the PIN is right: it says who it is, and which tables it runs */
  | { readonly kind: 'known'; readonly board: string; readonly hash: string }
  | { readonly kind: 'wrong'; readonly left: number }
  | { readonly kind: 'wait'; readonly seconds: number }
  | { readonly kind: 'done' }
  | { readonly kind: 'bad'; readonly word: string }

/** IEEE 802.11 and WPA2: bytes of a network's name, characters of its password. */
export interface PairingNetwork {
  readonly name: string
  readonly password: string
}

export const pairingGreeting = (pin: string): string => `vestibule-pair ${pin}\n`

/** Null: no answer of ours. */
export function readPairingAnswer(line: string): PairingAnswer | null {
  const [word, first = '', second = ''] = line.split(' ')
  const number = /^\d{1,6}$/.test(first) ? Number(first) : null
  if (word === 'ok' && first.includes('/') && second !== '') return { kind: 'known', board: first, hash: second }
  if (word === 'wrong' && number !== null) return { kind: 'wrong', left: number }
  if (word === 'wait' && number !== null) return { kind: 'wait', seconds: number }
  if (word === 'done') return { kind: 'done' }
  return word === 'bad' ? { kind: 'bad', word: first } : null
}

/** What a controller needs for its network and each of its links; what is empty is not said. */
export function pairingLines(
  wires: ControllerWires,
  network: PairingNetwork | null,
  reveal: (secret: string) => string,
): string[] {
  const said = (words: string, text: string): string[] => (text === '' ? [] : [`${words} ${text}`])
  const fill = (text: Text): string => filledText(text, reveal)
  const links = wires.links.flatMap((link) => {
    const at = placeOf(link)
    const port = at?.portSecret ? reveal(at.portSecret) || String(at.port) : String(at?.port ?? '')
    const login = link.transport === 'own' || link.transport === 'mqtt' ? link : null
    const password = login ? fill(login.password) : link.transport === 'hook' ? fill(link.key) : ''
    return [
      ...(at ? [...said(`address ${link.id}`, fill(at.address)), ...said(`port ${link.id}`, port)] : []),
      ...(login ? said(`user ${link.id}`, fill(login.user)) : []),
      ...said(`password ${link.id}`, password),
    ]
  })
  return [...said('network', network?.name ?? ''), ...said('secret', network?.password ?? ''), ...links, 'end']
}

const placeOf = (link: LinkWire) => (link.transport === 'hook' ? link.call?.place : link.place)
