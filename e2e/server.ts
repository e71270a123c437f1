import { spawn, type ChildProcess } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { test as base, expect } from '@playwright/test'

export interface Served {
  readonly url: string
  readonly data: string
}

async function serve(): Promise<{ served: Served; child: ChildProcess }> {
  const data = mkdtempSync(join(tmpdir(), 'vestibule-e2e-'))
  const child = spawn(
    process.execPath,
    ['cli/vestibule.mjs', 'serve', '--port', '0', '--broker-port', '0', '--service-port', '0', '--data', data],
    { stdio: ['ignore', 'pipe', 'inherit'] },
  )
  const url = await new Promise<string>((resolve, reject) => {
    let text = ''
    child.stdout!.on('data', (chunk: Buffer) => {
      text += chunk.toString()
      const found = /Vestibule is at (\S+)/.exec(text)
      if (found) resolve(found[1]!)
    })
    child.once('exit', (code) => reject(new Error(`the server ended with ${code}: ${text}`)))
  })
  return { served: { url, data }, child }
}

/** The fresh folder goes with its server. */
async function end({ served, child }: { served: Served; child: ChildProcess }): Promise<void> {
  const gone = new Promise((resolve) => child.once('exit', resolve))
  child.kill('SIGTERM')
  await gone
  rmSync(served.data, { recursive: true, force: true })
}

/**
 * `served`: a server of its own for each test, on a fresh copy of the demo: what one test edits no other test finds.
 * `looked`: one for all tests of a worker that only look.
 */
export const test = base.extend<{ served: Served }, { looked: Served }>({
  // Playwright wants the first parameter to be a pattern, even an empty one.
  served: async ({}, use) => {
    const server = await serve()
    await use(server.served)
    await end(server)
  },
  looked: [
    async ({}, use) => {
      const server = await serve()
      await use(server.served)
      await end(server)
    },
    { scope: 'worker' },
  ],
})
export { expect }
