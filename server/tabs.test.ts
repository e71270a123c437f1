import { afterAll, beforeAll, expect, it } from 'vitest'
import { testServer, type TestServer } from './server.testkit'

let server: TestServer
beforeAll(async () => {
  server = await testServer({ seed: false })
})
afterAll(() => server.close())
const match = (revision: number) => ({ 'If-Match': `"${revision}"` })

it('undo is a tab’s own, on top of what others have done since; anybody’s is undone when asked', async () => {
  const { id } = (await server.ask('POST', '/api/sites', { name: 'Two tabs' })).json as { id: string }
  const path = `/api/sites/${id}`
  const as = async (tab: string, method: string, end = '', body?: unknown) => {
    const { revision } = (await server.ask('GET', path)).json as { revision: number }
    return server.ask(method, path + end, body, { ...match(revision), 'X-Tab': tab })
  }
  const room = (name: string) => ({ id: name.toLowerCase(), name })
  const put = (tab: string, name: string) =>
    as(tab, 'PATCH', '', { label: `room ${name}`, patch: [{ op: 'add', path: '/rooms/0', value: room(name) }] })
  const rooms = async () =>
    (await server.ask('GET', path)).json.site.rooms.map((row: { name: string }) => row.name) as string[]
  const before = await rooms()
  await put('left', 'Hall')
  expect((await put('right', 'Attic')).json).toMatchObject({ undo: 'room Attic', elsewhere: null })
  const renamed = { label: 'Cellar', patch: [{ op: 'replace', path: '/rooms/0/name', value: 'Cellar' }] }
  expect((await as('left', 'GET')).json).toMatchObject({ undo: 'room Hall', elsewhere: 'room Attic' })
  expect((await as('left', 'POST', '/undo')).json).toMatchObject({ label: 'room Hall', redo: 'room Hall' })
  expect(await rooms()).toEqual(['Attic', ...before])
  expect((await as('left', 'POST', '/undo')).json.error.code).toBe('nothing-to-undo')
  expect((await as('right', 'POST', '/redo')).json.error.code).toBe('nothing-to-redo')
  await as('left', 'POST', '/redo')
  expect(await rooms()).toEqual(['Hall', 'Attic', ...before])
  // the same thing changed by the other: only a person can say which holds
  await as('right', 'PATCH', '', renamed)
  const refused = await as('left', 'POST', '/undo')
  expect([refused.status, refused.json.error.message]).toEqual([
    409,
    '“room Hall” cannot be taken back alone: the same place has been changed in another tab since',
  ])
  expect((await as('left', 'POST', '/undo', { whose: 'any' })).json.label).toBe('Cellar')
  expect((await as('left', 'POST', '/undo')).json.label).toBe('room Hall')
  expect(await rooms()).toEqual(['Attic', ...before])
})
