import { createHmac } from 'node:crypto'
import { describe, expect, it } from 'vitest'
import { signature, signed, verified, type PlainSign } from './sign'

const sign = (key: string, more: Partial<PlainSign> = {}): PlainSign => ({
  ...{ key, before: '', between: null, after: '' },
  ...more,
})

describe('the signature of a message', () => {
  // RFC 4231, 4.3 (test case 2): a key and data of plain text
  it('is that of RFC 4231', () => {
    expect(signature(sign('Jefe'), 'any', 'what do ya want for nothing?')).toBe(
      '5bdcc146bf60754e6a042426089575c75a003f089d2739839dec58b964ec3843',
    )
  })

  it.each([0, 1, 55, 56, 63, 64, 65, 119, 120, 200])('is that of an independent library for %i bytes', (length) => {
    const [key, payload] = ['ö'.repeat(length / 2) + 'k', 'x'.repeat(length)]
    const over = sign(key, { before: 'from ', between: '\n', after: ' end' })
    const expected = createHmac('sha256', key).update(`from a/b\n${payload} end`).digest('hex')
    expect(signature(over, 'a/b', payload)).toBe(expected)
  })

  it('is cut off where it is right, and refused where anything of it differs', () => {
    const own = sign('key', { between: ' ' })
    const message = signed(own, 'lamp/ask', '1 17')
    expect(verified(own, 'lamp/ask', message)).toBe('1 17')
    expect(verified(own, 'strike/ask', message)).toBeUndefined()
    expect(verified(own, 'lamp/ask', message.replace('1 17', '1 18'))).toBeUndefined()
    expect(verified(own, 'lamp/ask', '1 17')).toBeUndefined()
    expect(verified({ ...own, key: 'kez' }, 'lamp/ask', message)).toBeUndefined()
    const empty = sign('')
    expect(verified(empty, 'lamp/ask', signed(empty, 'lamp/ask', '1 17'))).toBeUndefined()
  })
})
