import { describe, expect, it } from 'vitest'
import { randomImage } from '../../core/device/random.testkit'
import { choices } from '../../core/seeded'
import { buildHost, FirmwareRefused, runHostTrace } from '../host'

/** What nobody sane would send: the host port must refuse it with one line, or pass it by, and never fall over. */
const REFUSED: [string, string][] = [
  ['text that is not JSON', 'hello\n'],
  ['a truncated object', '{"t":1,"link":\n'],
  ['no time', '{"link":"up"}\n'],
  ['a negative time', '{"t":-1,"link":"up"}\n'],
  ['a time beyond 32 bits', '{"t":4294967296,"link":"up"}\n'],
  ['a level without a level', '{"t":1,"pin":"s1"}\n'],
  ['a message without a payload', '{"t":1,"msg":{"topic":"a","retain":false}}\n'],
  ['an object nested without end', `{"t":1,"x":${'['.repeat(200)}${']'.repeat(200)}}\n`],
  // RFC 8259, 6: what a C library takes for a number is not always one
  ...['0x10', 'nan', 'inf', '+1', '01', '1.', '.5', '1e'].map((number): [string, string] => [
    `the number ${number}`,
    `{"t":${number},"link":"up"}\n`,
  ]),
  ['a list', '[1,2,3]\n'],
  ['an unknown pin', '{"t":1,"pin":"nobody","level":0}\n'],
]

describe('a hostile trace', () => {
  it.each(REFUSED)('%s is refused in one line', async (_, trace) => {
    const { program } = await buildHost(randomImage(3))
    const refusal = await runHostTrace(program, trace).catch((error: unknown) => error)
    expect(refusal).toBeInstanceOf(FirmwareRefused)
    expect((refusal as Error).message).toMatch(/^trace line 1: /)
    expect((refusal as Error).message).not.toContain('\n')
  })

  it('random bytes never crash the program', async () => {
    const { program } = await buildHost(randomImage(3))
    const random = choices(4711)
    const words = [
      '{"t":',
      '1',
      '}',
      '"msg":{',
      '"topic":"',
      '\\u00',
      '\\"',
      '"',
      'vestibule/random/c3/',
      'vp/',
      '/set',
      ',"payload":',
      '"on"',
      ',"retain":true}',
      ',"pin":"s1","level":',
      '0',
      '[',
      ']',
      '\n',
      ' ',
      '\u0000',
      'é',
      '9'.repeat(40),
    ]
    for (let n = 0; n < 150; n++) {
      const text = Array.from({ length: random.whole(1, 40) }, () => random.pick(words)).join('')
      const answer = await runHostTrace(program, text).catch((error: unknown) => error)
      // a refusal is one line of its own making; a crash would leave none
      if (answer instanceof Error) expect(answer.message, JSON.stringify(text)).toMatch(/^trace line \d+: /)
    }
  })

  it('topics and payloads of any length are taken or refused, never written past their place', async () => {
    const image = randomImage(3)
    const { program } = await buildHost(image)
    const prefix = `vestibule/${image.site}/${image.controller}/`
    const lines = [
      { t: 0, power: 'on' },
      { t: 1, link: 'up' },
      ...[1, 23, 24, 63, 64, 127, 128, 5000].flatMap((length, i) => [
        { t: 10 + i, msg: { topic: `${prefix}${'x'.repeat(length)}/set`, payload: 'on', retain: false } },
        {
          t: 10 + i,
          msg: { topic: `${prefix}vp/${'9'.repeat(length)}/set`, payload: '9'.repeat(length), retain: false },
        },
        { t: 10 + i, msg: { topic: `${prefix}${'a/'.repeat(length)}set`, payload: 'y'.repeat(length), retain: true } },
      ]),
    ]
    const out = await runHostTrace(program, lines.map((line) => `${JSON.stringify(line)}\n`).join(''))
    for (const line of out.trim().split('\n')) expect(() => JSON.parse(line) as unknown).not.toThrow()
    expect(out).toContain('set: unknown channel')
  })
})
