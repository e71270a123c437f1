import { produce } from 'immer'
import { describe, expect, it } from 'vitest'
import { BOARDS, readProfile } from '../boards'
import { cleanSite } from '../findings/cleanSite.testkit'
import { migrate, parseSite, plainCopy, type Site } from '../site'
import { buildController, portOf } from '.'

const eightBit = BOARDS.find(({ port }) => port === 'avr')!
/** The controller on a maker's own copy of the 8-bit board. */
const onCopy = (): Site =>
  produce(cleanSite(eightBit.id), (draft) => {
    draft.profiles.boards.push({ ...plainCopy(eightBit), id: 'my-own-board', name: 'My own board' })
    draft.controllers[0]!.board = 'my-own-board'
  })

describe('a maker’s copy of a board', () => {
  it('is built with the port of the one it was copied from', () => {
    const site = onCopy()
    expect(portOf(site, site.controllers[0]!)).toBe('avr')
    const { files } = buildController(site, 'corner', [
      { name: 'ports/avr/main.cpp', text: '' },
      { name: 'ports/board-core/controller.cpp', text: '' },
    ])
    const names = files.map(({ name }) => name)
    expect(names).toContain('firmware/ports/avr/main.cpp')
    expect(names).not.toContain('firmware/ports/board-core/controller.cpp')
    expect(files.find(({ name }) => name === 'sheets/flash-steps.md')!.text).toContain('make avr')
  })

  /** A document as version 2 wrote it: profiles without a port. */
  const version2 = (): object => {
    const site = plainCopy(onCopy()) as unknown as Record<string, unknown>
    const boards = onCopy().profiles.boards.map(({ port: _port, ...board }) => board)
    const plain = { ...BOARDS.find(({ port }) => port === 'board-core')!, id: 'other-board', name: 'Other' }
    const { port: _unsaid, ...other } = plain
    return { ...site, version: 2, profiles: { ...(site['profiles'] as object), boards: [...boards, other] } }
  }
  it('of a document of version 2 gets its port from what it says', () => {
    const parsed = parseSite(version2())
    if (!parsed.ok) throw parsed.error
    expect(parsed.value.profiles.boards.map(({ id, port }) => `${id}: ${port}`)).toEqual([
      'my-own-board: avr',
      'other-board: board-core',
    ])
    expect(migrate(plainCopy(parsed.value))).toEqual(plainCopy(parsed.value))
  })
  it('of a file of its own, from before it was asked for, does too', () => {
    const { port: _port, ...old } = eightBit
    expect(readProfile(JSON.stringify(old))).toMatchObject({ ok: true, profile: { port: 'avr' } })
  })
})
