import { readFileSync } from 'node:fs'
import QRCode from 'qrcode'
import { describe, expect, it } from 'vitest'
import { readSite } from '../site'
import { readBack } from './readCode.testkit'
import { boxLabel, boxPayload, type Code } from '.'

// Source: the code is read back by a reader that is not ours (jsQR, on pixels); docs/formats.md, "Box label".

const parsed = readSite(readFileSync('demo/fernhollow.json', 'utf8'))
if (!parsed.ok) throw parsed.error
const site = parsed.value
const codeOf = (text: string): Code => {
  const { modules } = QRCode.create(text, { errorCorrectionLevel: 'M' })
  return { size: modules.size, isDark: (row, column) => modules.get(row, column) === 1 }
}

describe('a box label', () => {
  it.each(site.controllers.map((controller) => [controller.id as string, controller] as const))(
    'of %s is read back as what it holds',
    (_, controller) => {
      const board = { number: 12, hash: '0123456789ab' }
      const payload = boxPayload(site, controller, board)
      const svg = boxLabel(site, controller, board, codeOf(payload))
      expect(readBack(svg)).toBe(`vestibule:box?site=fernhollow&board=${controller.id}&build=12&tables=0123456789ab`)
      expect(svg).toContain(controller.name)
      expect(svg).toContain('0123456789ab')
    },
  )
  it('says mains, its breaker, and that a flash is missing', () => {
    const throwing = site.controllers.find(({ id }) => id === 'throwing')!
    const svg = boxLabel(site, throwing, null, codeOf(boxPayload(site, throwing, null)))
    const text = [...svg.matchAll(/<text[^>]*>([^<]*)/g)].map(([, line]) => line).join(' ')
    for (const words of ['Mains 230 V, breaker 16 A', 'Supply off, proved dead, then open.', 'No flash on record.'])
      expect(text).toContain(words)
  })
})
