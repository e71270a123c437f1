import { modemOf, type Controller, type Site } from '../site'
import { hasNetwork } from '../wires'
import { section, stepLines, type Lines } from './sheetTable'

/** What a modem wants before anything else can work (the commands: 3GPP TS 27.007, 7.2 and 8.5). */
export const modemLines = (site: Site, controller: Controller): Lines =>
  controller.link !== 'modem'
    ? []
    : [
        '',
        '## The modem',
        '',
        ...stepLines([
          'Try the card in a phone first: no PIN asked, data working, enough on it',
          `Write the access point “${controller.modem?.apn ?? ''}” as the network’s operator gives it: VESTIBULE_MODEM_APN`,
          'Aerial on before power; the supply must give its bursts (bench, Supply)',
          'Signal: AT+CSQ answers 10 or more of 31; 99 is none',
          'Registration: AT+CREG? answers 0,1 at home or 0,5 abroad',
          'An adapter to the computer has 3.3 V levels where the modem has, and shares its ground',
          'Take the modem off D0 and D1 while the board is flashed',
        ]),
        ...dialogueLines(site, controller),
      ]

/** What the program says to the modem for a connection, to be held against its command manual. */
function dialogueLines(site: Site, controller: Controller): Lines {
  const modem = modemOf(site, controller)
  if (!modem || !hasNetwork(site, controller)) return []
  const { baud, open, opened, send, prompt, sent, arrives, close, closed } = modem.dialogue
  const rows = [
    ['opens a connection', open, opened],
    ['sends', send, `${prompt} then the bytes, then ${sent}`],
    ['hears', '', `${arrives} then how many, then the bytes`],
    ['closes', close, closed],
  ]
  return [
    ...section(
      'Commands for a connection',
      ['it', 'says', 'waits for'],
      rows.map((row) => row.map(inCode)),
    ),
    '',
    `At ${baud} baud. Each maker has its own: hold them against the modem’s command manual, and correct them in its ` +
      'profile (bench, Profiles). The way to the network is standard (ITU-T V.250, 3GPP TS 27.007). Each time it ' +
      'connects, and each hour, the board’s log says signal, network, restarts and bytes, where the service has a log.',
  ]
}

const inCode = (text: string, column: number): string => (column > 0 && text !== '' ? `\`${text}\`` : text)
