import { boardIn } from '../boards'
import { PAIRING, serviceKindIn } from '../services'
import { handFor, timeText, type Controller, type Site } from '../site'
import { hasNetwork } from '../wires'
import type { Lines } from './sheetTable'

/** How a controller is paired over the short range; kinds that need it have a PIN among their credentials. */
export function pairingLines(site: Site, controller: Controller, kind: string): Lines {
  const pairs = serviceKindIn(site, kind)?.secrets.some(({ shape }) => shape === 'pin') ?? false
  if (!pairs || !hasNetwork(site, controller) || boardIn(site, controller.board)?.boxed?.parameters) return []
  if (controller.link !== 'wifi') return ['', `${controller.name} has no short range: its login stands in secrets.h.`]
  const { name } = controller
  const pair = handFor(site, controller.id, 'pair')
  const reset = handFor(site, controller.id, 'reset')
  return [
    '',
    'Pair it with its PIN, or fill in secrets.h. Pairing needs only the PIN there; other lines that are filled in count ' +
      'until it is paired.',
    '',
    pair
      ? `Hold ${pair.name} for ${timeText(pair.holdMs)}: ${name} is ready to pair for ${timeText(PAIRING.offerMs)}, and opens ` +
        `its own Wi-Fi network \`${site.id}/${controller.id}\`; the PIN is its password. It does so by itself while it ` +
        'knows no network.'
      : `Nothing at ${name} starts pairing: add a hold of 3 s or more for “start pairing” under Rules. It is ready to ` +
        'pair only while it knows no network.',
    '',
    `The phone sends the PIN on its label, and then network and logins (docs/wires.md, “Pairing”). After ` +
      `${PAIRING.mostWrong} wrong PINs it accepts none for ${timeText(PAIRING.closedMs)}.`,
    '',
    reset
      ? `Hold ${reset.name} for ${timeText(reset.holdMs)}: ${name} deletes all of it, ignores secrets.h too, and joins no ` +
        'network until it is paired again. Do this before it is given away.'
      : `Nothing at ${name} deletes its credentials: add a hold of 5 s or more for “delete credentials” under Rules, or erase the ` +
        'whole flash before it is given away; that also deletes its stored states.',
  ]
}
