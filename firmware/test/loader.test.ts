import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { afterEach, describe, expect, it } from 'vitest'
import { LOADER_ROOM, readHexRecords, recordsFor, sendProgram } from '../../core/flash'
import { compileSite } from '../../core/image'
import { readSite } from '../../core/site'
import { buildAvr, hexOf, simulatorSupported } from '../avr'
import { Board, closeBoards } from './loader.testkit'

// The boot loader of the 8-bit board on simavr, an independent simulator of that core; the program's bytes by
// avr-objcopy. It has not been run on hardware.

afterEach(closeBoards)

const parsed = readSite(readFileSync('demo/fernhollow.json', 'utf8'))
if (!parsed.ok) throw parsed.error
const image = compileSite(parsed.value).find(({ board, part }) => board === 'drying' && part === 'main')!.image

/** The drying room's program, and its bytes by another tool. */
async function drying(): Promise<{ hex: string; bytes: Buffer }> {
  const elf = await buildAvr(image)
  const file = `/tmp/vestibule-${process.pid}.bin`
  execFileSync('avr-objcopy', ['-O', 'binary', '-R', '.eeprom', elf, file])
  return { hex: await hexOf(elf), bytes: readFileSync(file) }
}

describe.skipIf(!simulatorSupported())('the boot loader of the 8-bit board', () => {
  it('takes a program over the serial port, byte for byte, and starts it', async () => {
    const { hex, bytes } = await drying()
    const program = readHexRecords(hex, LOADER_ROOM)
    expect(Buffer.from(program.bytes).equals(bytes)).toBe(true)
    const board = await Board.of()
    const done: number[] = []
    await sendProgram(board, program, (part) => done.push(part))
    expect((await board.inFlash()).subarray(0, bytes.length).equals(bytes)).toBe(true)
    expect(done.at(-1)).toBe(1)
    await board.begins()
  }, 120_000)

  it('asks again for what was garbled, and refuses what lies beyond its room', async () => {
    const { hex, bytes } = await drying()
    const board = await Board.of()
    let count = 0
    board.spoils = (text) => (count++ % 40 === 7 ? text.replace(/[0-9A-F]\n$/, 'x\n') : text)
    await sendProgram(board, readHexRecords(hex, LOADER_ROOM))
    expect((await board.inFlash()).subarray(0, bytes.length).equals(bytes)).toBe(true)
    expect(() => readHexRecords(':107BF80000000000000000000000000000000000FD\n:00000001FF', LOADER_ROOM)).toThrow(
      /line 1/,
    )
  }, 120_000)

  it('whose power is cut in the middle starts nothing, and takes the program at the next try', async () => {
    const { hex, bytes } = await drying()
    const program = readHexRecords(hex, LOADER_ROOM)
    const board = await Board.of()
    await sendProgram(board, program)
    await board.begins()
    const records = recordsFor(program)
    for (const part of [0.3, 0.99]) {
      board.tells('R')
      let sent = 0
      await expect(
        sendProgram(board, program, () => {
          if (++sent === Math.floor(records.length * part)) board.tells('O')
        }),
      ).rejects.toThrow(/three times|not answer/)
      board.begun = 0
      board.tells('R')
      // longer than it waits for somebody who speaks
      for (let waited = 0; waited < 1_500; waited += 100) await board.read(100)
      expect(board.begun, `cut at ${part}`).toBe(0)
    }
    board.tells('R')
    await sendProgram(board, program)
    await board.begins()
    expect((await board.inFlash()).subarray(0, bytes.length).equals(bytes)).toBe(true)
  }, 240_000)
})
