import { spawn, type ChildProcess } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, it } from 'vitest'

const start = (data: string): Promise<{ child: ChildProcess; url: string }> =>
  new Promise((resolve, reject) => {
    const child = spawn(
      process.execPath,
      ['cli/vestibule.mjs', 'serve', '--port', '0', '--broker-port', '0', '--data', data],
      { stdio: ['ignore', 'pipe', 'inherit'] },
    )
    let text = ''
    child.stdout.on('data', (chunk: Buffer) => {
      text += chunk.toString()
      const url = /Vestibule is at (\S+)/.exec(text)?.[1]
      if (url) resolve({ child, url })
    })
    child.once('exit', () => reject(new Error(text)))
  })

it('kill -9 during 200 edits: each edit that was acknowledged is there afterwards', async () => {
  const data = mkdtempSync(join(tmpdir(), 'vestibule-kill-'))
  const acknowledged: number[] = []
  let round = 0
  // Killed three times at different places, so that the kill falls into different parts of an edit.
  for (const killAt of [37, 101, 162]) {
    const { child, url } = await start(data)
    const gone = new Promise((resolve) => child.once('exit', resolve))
    let revision = ((await (await fetch(`${url}/api/sites/studio-corner`)).json()) as { revision: number }).revision
    expect(revision).toBeGreaterThanOrEqual(acknowledged.length)
    try {
      for (; round < 200; round++) {
        const answer = fetch(`${url}/api/sites/studio-corner`, {
          method: 'PATCH',
          headers: { 'Content-Type': 'application/json', 'If-Match': `"${revision}"` },
          body: JSON.stringify({
            label: `edit ${round}`,
            patch: [{ op: 'replace', path: '/channels/0/name', value: `Lamp ${round}` }],
          }),
        })
        if (round === killAt) child.kill('SIGKILL')
        const response = await answer
        expect(response.status).toBe(200)
        revision = ((await response.json()) as { revision: number }).revision
        acknowledged.push(round)
      }
    } catch (error) {
      if (round < killAt) throw error
      round++
    }
    child.kill('SIGKILL')
    await gone
  }
  const { child, url } = await start(data)
  const { site, revision } = (await (await fetch(`${url}/api/sites/studio-corner`)).json()) as {
    site: { channels: { name: string }[] }
    revision: number
  }
  const last = Number(/\d+/.exec(site.channels[0]!.name)![0])
  // Everything acknowledged is there; an edit whose answer was lost may be there too.
  expect(last).toBeGreaterThanOrEqual(acknowledged.at(-1)!)
  expect(revision).toBeGreaterThanOrEqual(acknowledged.length)
  expect(revision).toBeLessThanOrEqual(acknowledged.length + 3)
  expect(acknowledged.length).toBeGreaterThan(150)
  child.kill('SIGTERM')
  rmSync(data, { recursive: true, force: true })
})
