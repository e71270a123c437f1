import { spawn, type ChildProcess } from 'node:child_process'
import { cpSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { test as base, expect } from '@playwright/test'

export interface Served {
  readonly url: string
  readonly data: string
}

const freshFolder = (): string => mkdtempSync(join(tmpdir(), 'vestibule-e2e-'))

async function serve(data = freshFolder()): Promise<{ served: Served; child: ChildProcess }> {
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

async function stop(child: ChildProcess): Promise<void> {
  const gone = new Promise((resolve) => child.once('exit', resolve))
  child.kill('SIGTERM')
  await gone
}

/** The fresh folder goes with its server. */
async function end({ served, child }: { served: Served; child: ChildProcess }): Promise<void> {
  await stop(child)
  rmSync(served.data, { recursive: true, force: true })
}

/**
 * `served`: a server of its own for each test, on a fresh copy of the demo: what one test edits no other test finds.
 * `looked`: one for all tests of a worker that only look. `demo`: a folder as a first start leaves it, to copy from.
 */
export const test = base.extend<{ served: Served }, { looked: Served; demo: string }>({
  demo: [
    // Playwright wants the first parameter to be a pattern, even an empty one.
    async ({}, use) => {
      const { served, child } = await serve()
      await stop(child)
      await use(served.data)
      rmSync(served.data, { recursive: true, force: true })
    },
    { scope: 'worker' },
  ],
  served: async ({ demo }, use) => {
    const data = freshFolder()
    cpSync(demo, data, { recursive: true })
    const server = await serve(data)
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
