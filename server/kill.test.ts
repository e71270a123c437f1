import { spawn, spawnSync } from 'node:child_process'
import { existsSync, mkdtempSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { backUp, restore } from '.'
import { json, killed, ledger, nothingLost, siteAt, startProgram, writeEverything } from './writers.testkit'

/** Ends that nobody chooses. `npm run kills` does the first of these 500 times. */

let data = ''
beforeEach(() => {
  data = mkdtempSync(join(tmpdir(), 'vestibule-kill-'))
})
afterEach(() => rmSync(data, { recursive: true, force: true }))

describe('kill -9', () => {
  it('under mixed writing: each edit, note, credential and value that was acknowledged is there afterwards', async () => {
    const book = await killed(data, 2, 1, () => undefined, 6)
    for (const { sent } of Object.values(book) as { sent: number }[]) expect(sent).toBeGreaterThan(5)
  }, 300_000)
})

/** A small disk of its own, where this machine lets one have it. */
const disk = (): string => `mount -t tmpfs -o size=3m none ${data} && exec "$@"`
const mayMount = spawnSync('unshare', ['-Urm', 'sh', '-c', 'mount -t tmpfs none /mnt']).status === 0

describe('a full disk', () => {
  it.skipIf(!mayMount)(
    'says so in one line, keeps what was kept, and goes on when there is room',
    async () => {
      const { child, url, gone } = await startProgram(data, `exec unshare -Urm sh -c '${disk()}' sh "$@"`)
      const filler = `/proc/${child.pid!}/root${data}/filler`
      const before = await siteAt(url)
      try {
        writeFileSync(filler, Buffer.alloc(3_000_000))
      } catch {
        // as much of it as there is room for
      }
      const note = (n: number) =>
        fetch(`${url}/api/sites/studio-corner/log`, {
          method: 'POST',
          headers: json,
          body: JSON.stringify({ kind: 'note', controller: null, text: `note ${n}. ${'x'.repeat(1900)}` }),
        })
      let answer = await note(0)
      for (let i = 1; i < 200 && answer.status < 300; i++) answer = await note(i)
      expect(answer.status).toBe(503)
      expect(((await answer.json()) as { error: { message: string } }).error.message).toMatch(
        /^not saved: the disk is full: free some room, then do it again/,
      )
      expect(await (await fetch(`${url}/api/health`)).json()).toMatchObject({ ok: false })
      expect(await siteAt(url)).toEqual(before)
      rmSync(filler)
      expect((await note(500)).status).toBe(201)
      expect(await (await fetch(`${url}/api/health`)).json()).toMatchObject({ store: 'writes' })
      child.kill('SIGTERM')
      await gone
    },
    60_000,
  )
})

describe('a backup', () => {
  const killedAt = (ms: number, ...words: string[]): Promise<number | null> =>
    new Promise((resolve) => {
      const child = spawn(process.execPath, ['cli/vestibule.mjs', ...words], { stdio: 'ignore' })
      const timer = setTimeout(() => child.kill('SIGKILL'), ms)
      child.once('exit', (code) => {
        clearTimeout(timer)
        resolve(code)
      })
    })

  it('taken while everything is written holds what was acknowledged before it, with its credentials', async () => {
    const { child, url, gone } = await startProgram(data)
    const book = ledger()
    const writing = writeEverything(url, book)
    await new Promise((resolve) => setTimeout(resolve, 300))
    const at = structuredClone(book)
    const file = join(data, 'copy')
    backUp(data, file)
    expect((statSync(file).mode & 0o777).toString(8)).toBe('600')
    // what came while it was taken may be in it
    for (const key of ['edits', 'notes', 'secrets', 'touches'] as const) at[key].sent = book[key].sent
    child.kill('SIGKILL')
    await Promise.all([writing, gone])
    const elsewhere = join(data, 'elsewhere')
    restore(file, elsewhere)
    const again = await startProgram(elsewhere)
    await nothingLost(again.url, at)
    again.child.kill('SIGTERM')
    await again.gone
    expect(() => restore(file, elsewhere)).toThrow(`${elsewhere} holds a store already`)
    expect(() => backUp(elsewhere, file)).toThrow(`${file} is there already`)
  }, 60_000)

  it('killed at any moment it is whole or not there; a restore that is killed can be done again', async () => {
    const first = await startProgram(data)
    first.child.kill('SIGTERM')
    await first.gone
    const whole = join(data, 'whole')
    backUp(data, whole)
    let ended = 0
    const began = performance.now()
    await killedAt(60_000, 'backup', join(data, 'first'), '--data', data)
    const takes = performance.now() - began
    // the last is let to its end, however slow the machine
    for (const ms of [0.7, 0.85, 0.95, 100].map((part) => Math.round(part * takes))) {
      const file = join(data, `copy-${ms}`)
      const into = join(data, `into-${ms}`)
      const [backed] = await Promise.all([
        killedAt(ms, 'backup', file, '--data', data),
        killedAt(ms, 'restore', whole, '--data', into),
      ])
      if (existsSync(file)) restore(file, join(data, `from-${ms}`))
      else expect(backed).not.toBe(0)
      if (!existsSync(join(into, 'vestibule.sqlite'))) restore(whole, into)
      else ended++
      const kept = readdirSync(into).filter((name) => !/^restore-|\.part$/.test(name))
      expect(kept.sort()).toEqual(['credentials.key', 'vestibule.sqlite'])
    }
    expect(ended).toBeGreaterThan(0)
  }, 60_000)

  it.each([
    ['nothing there', null, /there is no such file/],
    ['a letter', 'dear aunt', /is no backup of Vestibule, or only a part of one/],
  ])('that is none (%s) is refused, and nothing is made', (_, text, why) => {
    const file = join(data, 'file')
    if (text !== null) writeFileSync(file, text)
    expect(() => restore(file, join(data, 'into'))).toThrow(why)
    expect(existsSync(join(data, 'into'))).toBe(false)
  })
})
