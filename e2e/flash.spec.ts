import type { Page } from '@playwright/test'
import { simulatorSupported } from '../firmware/avr'
import { Board, closeBoards } from '../firmware/test/loader.testkit'
import { expect, test } from './server'

// From the page to the flash of a board: the program is compiled by the server, and sent over the browser's serial port
// to the loader on the simulated board. A log that names its tables is entered by itself.

test.afterAll(closeBoards)

/** A serial port of the browser whose other end is in this test. */
async function plugged(page: Page, read: () => number[], write: (bytes: number[]) => void): Promise<void> {
  await page.exposeFunction('serialRead', read)
  await page.exposeFunction('serialWrite', write)
  await page.addInitScript(() => {
    const ends = window as unknown as {
      serialRead(): Promise<number[]>
      serialWrite(bytes: number[]): Promise<void>
    }
    const port = {
      readable: null as ReadableStream<Uint8Array> | null,
      writable: null as WritableStream<Uint8Array> | null,
      open: () => {
        let isOpen = true
        port.readable = new ReadableStream({
          pull: async (controller) => {
            for (;;) {
              const bytes = await ends.serialRead()
              if (!isOpen) return controller.close()
              if (bytes.length > 0) return controller.enqueue(Uint8Array.from(bytes))
              await new Promise((resolve) => setTimeout(resolve, 5))
            }
          },
          cancel: () => {
            isOpen = false
          },
        })
        port.writable = new WritableStream({ write: (chunk) => ends.serialWrite([...chunk]) })
        return Promise.resolve()
      },
      close: () => Promise.resolve(),
    }
    Object.defineProperty(navigator, 'serial', { value: { requestPort: () => Promise.resolve(port) } })
  })
}

const built = async (url: string, controller: string): Promise<{ build: { hash: string; number: number } }> => {
  const answer = await fetch(`${url}/api/sites/fernhollow/builds`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ controller, despiteFindings: true }),
  })
  return (await answer.json()) as { build: { hash: string; number: number } }
}

test('a program goes from the page into the flash of the simulated board', async ({ page, served }) => {
  test.skip(!simulatorSupported())
  test.setTimeout(240_000)
  await built(served.url, 'drying')
  const board = await Board.of()
  await plugged(
    page,
    () => board.said.splice(0).map((character) => character.charCodeAt(0)),
    (bytes) => board.tells(`B ${Buffer.from(bytes).toString('hex')}`),
  )
  await page.goto(`${served.url}/fernhollow/handover?side=flash`)
  // nothing is flashed to a first of a list: the board is asked for
  await expect(page.getByRole('heading', { name: 'Which board do you flash?' })).toBeVisible()
  await page.getByRole('button', { name: 'Drying', exact: true }).last().click()
  await page.getByRole('button', { name: 'Compile and send over the serial port' }).click()
  await expect(page.getByText('Sent, and read back from flash: the same.')).toBeVisible({ timeout: 200_000 })
  await board.begins()
  await expect(page.getByText('On the board by the logbook: build 1.')).toBeVisible()
  await page.getByRole('link', { name: /^Logbook/ }).click()
  await expect(page.locator('#view')).toContainText('sent over the serial port, and read back')
})

test('a serial log that names its tables is entered by itself, once', async ({ page, served }) => {
  const { build } = await built(served.url, 'window')
  const lines = [...Buffer.from(`starting\r\ntables ${build.hash}\r\nhouse: up\r\ntables ${build.hash}\r\n`)]
  await plugged(
    page,
    () => lines.splice(0, 7),
    () => undefined,
  )
  await page.goto(`${served.url}/fernhollow/handover?side=flash`)
  await page.getByRole('button', { name: 'Window', exact: true }).last().click()
  await page.getByRole('button', { name: /^Listen at a serial port/ }).click()
  await expect(page.getByLabel('Lines of the serial log')).toContainText('house: up')
  await expect(page.getByText(`On the board by the logbook: build ${build.number}.`)).toBeVisible()
  await page.getByRole('link', { name: /^Logbook/ }).click()
  await expect(page.getByText(/read from its serial log/)).toHaveCount(1)
})
