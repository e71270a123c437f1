import { describe, expect, it } from 'vitest'
import { makeGuard } from './guard'

const basic = (text: string) => `Basic ${Buffer.from(text).toString('base64')}`

describe('on loopback', () => {
  const guard = makeGuard([], null)
  it.each([
    [{ host: '127.0.0.1:4100' }, true],
    [{ host: 'localhost:4100' }, true],
    [{ host: '[::1]:4100' }, true],
    [{ host: '127.0.0.1:4100', origin: 'http://127.0.0.1:4100' }, true],
    [{ host: '127.0.0.1:4100', origin: 'http://127.0.0.1:9999' }, false],
    [{ host: '127.0.0.1:4100', origin: 'https://elsewhere.example' }, false],
    [{ host: '127.0.0.1:4100', origin: 'null' }, false],
    [{ host: 'rebound.example:4100' }, false],
    [{ host: '127.0.0.1.rebound.example' }, false],
    [{}, false],
  ])('%j: %s', (headers, expected) => expect(guard.allows(headers)).toBe(expected))
})

describe('beyond loopback a passphrase is asked for', () => {
  const guard = makeGuard(['192.0.2.7'], 'open sesame')
  it.each([
    [{ host: '192.0.2.7:4100' }, false],
    [{ host: '192.0.2.7:4100', authorization: basic('me:wrong') }, false],
    [{ host: '192.0.2.7:4100', authorization: basic('me:open sesame') }, true],
    [{ host: '192.0.2.7:4100', authorization: basic(':open sesame') }, true],
    [{ host: '192.0.2.7:4100', authorization: 'Bearer open sesame' }, false],
    [{ host: '192.0.2.8:4100', authorization: basic('me:open sesame') }, false],
  ])('%j: %s', (headers, expected) => expect(guard.allows(headers)).toBe(expected))
})
