// @vitest-environment jsdom
import { soon } from '../soon.testkit'
import { fireEvent, screen, within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { produce } from 'immer'
import { toast } from 'sonner'
import { afterEach, describe, expect, it, vi } from 'vitest'
import type { CredentialRow } from '../../core/api'
import { serviceKindsOf } from '../../core/services'
import { plainCopy, pointOf } from '../../core/site'
import { connectionsOf, wireKey } from '../../core/wiring'
import { BenchView } from './bench/BenchView'
import { BuildView } from './build/BuildView'
import { LogbookView } from './logbook/LogbookView'
import { demo, kept, show } from './view.testkit'
import { WaysView } from './ways/WaysView'

/** Each side of each view: what it shows from a document, and which edit it makes of what a person does there. */

vi.mock('sonner', () => ({ toast: Object.assign(vi.fn(), { error: vi.fn(), success: vi.fn() }) }))
afterEach(() => {
  vi.unstubAllGlobals()
  vi.clearAllMocks()
})

const press = (name: string | RegExp) => userEvent.click(screen.getByRole('button', { name }))
/** Types into a field and leaves it, as a person does. */
const write = (label: string | RegExp, text: string) => {
  const field = screen.getByLabelText(label)
  fireEvent.change(field, { target: { value: text } })
  fireEvent.blur(field)
}
const choose = (label: string | RegExp, option: string) => userEvent.selectOptions(screen.getByLabelText(label), option)
const ways = (side: string, id = 'fernhollow') => show(<WaysView />, side ? `ways?side=${side}` : 'ways', demo(id))
const bench = (side: string, id = 'studio-corner') =>
  show(<BenchView />, side ? `bench?side=${side}` : 'bench', demo(id))

describe('ways', () => {
  it('crossbar: a new channel gets its place, and a room that was not there', async () => {
    const keeper = await ways('', 'studio-corner')
    await userEvent.type(screen.getByLabelText('New channel'), 'Shelf lamp')
    await userEvent.type(screen.getByLabelText('Room'), 'Attic')
    await choose('Kind', 'pulsed')
    await press('Add channel')
    const site = await kept(keeper)
    expect(site.channels.at(-1)).toMatchObject({ id: 'shelf-lamp', kind: 'pulsed', room: 'attic' })
    expect(site.rooms.at(-1)).toEqual({ id: 'attic', name: 'Attic' })
    expect(keeper.heard).toHaveLength(1)
  })
  it('services: a field changes its service, and only that', async () => {
    const keeper = await ways('services', 'studio-corner')
    expect(screen.getByRole('button', { name: /App service/ })).toBeDefined()
    write('Name', 'Phone of the studio')
    expect((await kept(keeper)).services.map(({ name }) => name)).toEqual(['Phone of the studio'])
  })
  it('services: numbered anew, the points close their ranks in one edit', async () => {
    const before = produce(demo('studio-corner'), (draft) => {
      draft.services[0]!.points.forEach((point, at) => (point.vp = 5 + 3 * at))
    })
    const keeper = await show(<WaysView />, 'ways?side=services', before)
    await press(/^Renumber from/)
    const after = (await kept(keeper)).services[0]!
    expect(after.points.map(({ vp }) => vp)).toEqual(after.points.map((_, at) => at + 1))
    expect(after.points.length).toBeGreaterThan(1)
    expect(after.points.map(({ id }) => id)).toEqual(before.services[0]!.points.map(({ id }) => id))
    expect(keeper.heard).toHaveLength(1)
  })
  it('phone: every widget stands on the screen with its point’s number', async () => {
    const keeper = await ways('phone', 'studio-corner')
    const { id, widgets } = keeper.site.services[0]!
    expect(widgets.length).toBeGreaterThan(1)
    for (const widget of widgets) {
      const { vp } = pointOf(keeper.site, id, widget.point)!
      expect(screen.getByText(`vp${vp}`)).toBeDefined()
      expect(screen.getAllByText(widget.name).length).toBeGreaterThan(0)
    }
  })
  it('voice: an empty one says the next step; a full one lists each name', async () => {
    await ways('voice', 'studio-corner')
    expect(screen.getByText(/Fill the Voice column of the crossbar/)).toBeDefined()
    const { site } = await ways('voice')
    const names = site.ways.flatMap((way) => (way.kind === 'voice' ? [way.name] : []))
    expect(names.length).toBeGreaterThan(1)
    for (const name of names) expect(screen.getAllByText(new RegExp(name)).length).toBeGreaterThan(0)
  })
  it('remotes: one is begun for a controller, and a key more', async () => {
    const keeper = await ways('remotes', 'studio-corner')
    await press('remote for Corner')
    await press('Add key')
    const { remotes } = await kept(keeper)
    expect(remotes.map(({ controller, keys }) => [controller, keys.length])).toEqual([['corner', 1]])
  })
  it('links: a serial link is begun with its usual speed, which then changes', async () => {
    const keeper = await ways('links', 'studio-corner')
    await press('Serial link of Corner')
    expect((await kept(keeper)).links).toMatchObject([{ kind: 'serial', controller: 'corner', baud: 9_600 }])
    await choose('Speed (both ends) (baud)', '38400')
    expect((await kept(keeper)).links[0]!.baud).toBe(38_400)
  })
  it('rules: a group is made, and a way to the controller itself', async () => {
    const keeper = await ways('rules', 'studio-corner')
    await userEvent.type(screen.getByLabelText('New group'), 'All lamps')
    await press('Add group')
    await choose('Source', 'S1 hold')
    await choose('Target', 'Corner itself')
    await choose('Action', 'report everything')
    await press('Add')
    const site = await kept(keeper)
    expect(site.groups).toMatchObject([{ name: 'All lamps' }])
    expect(site.controls).toMatchObject([{ kind: 'controller', controller: 'corner', action: 'report' }])
  })
  it('tables: same map, next room', async () => {
    const keeper = await ways('tables', 'studio-corner')
    await userEvent.type(screen.getByLabelText('New name'), 'Attic')
    await userEvent.type(screen.getByLabelText('Room'), 'Attic room')
    await press('Copy controller')
    const site = await kept(keeper)
    expect(toast.error).not.toHaveBeenCalled()
    expect(site.controllers.map(({ name }) => name)).toEqual(['Corner', 'Attic'])
    expect(site.channels).toHaveLength(4)
  })
  it('templates: an example is begun, and what it gives is shown', async () => {
    const keeper = await ways('templates', 'studio-corner')
    await choose('New template', 'Point table')
    expect((await kept(keeper)).templates).toHaveLength(1)
  })
})

const row = (more: Partial<CredentialRow>): CredentialRow => ({
  key: 'wifi/password',
  label: 'Wi-Fi password',
  owner: 'Network',
  controllers: ['corner'],
  shape: 'password',
  secret: true,
  shownOnce: false,
  pairs: false,
  made: false,
  usedIn: 'secrets file of Corner',
  stored: null,
  ...more,
})

describe('credentials', () => {
  const credentials = () =>
    Response.json({
      credentials: [row({}), row({ key: 'hub/host', label: 'Host', owner: 'Local hub', shape: 'host' })],
    })
  it('each stands under its owner, and says that it is missing', async () => {
    await show(<WaysView />, 'ways?side=credentials', demo('studio-corner'), { '/credentials': credentials })
    const network = await screen.findByRole('region', { name: 'Network' })
    expect(within(network).getByLabelText(/Wi-Fi password/)).toBeDefined()
    expect(within(network).queryByLabelText(/Host/)).toBeNull()
    expect(within(network).getByText(/missing/)).toBeDefined()
  })

  const saved = () => {
    const files: string[] = []
    vi.stubGlobal('URL', Object.assign(URL, { createObjectURL: () => 'blob:x', revokeObjectURL: () => {} }))
    vi.spyOn(HTMLAnchorElement.prototype, 'click').mockImplementation(function (this: HTMLAnchorElement) {
      files.push(this.download)
    })
    return files
  }
  it('a secrets file that is refused is said, and not saved as one', async () => {
    const files = saved()
    await show(<BuildView />, 'build', demo('studio-corner'), {
      '/credentials': credentials,
      '/secrets': () =>
        Response.json({ error: { code: 'missing', message: 'Wi-Fi password is missing' } }, { status: 409 }),
    })
    await userEvent.click(await screen.findByRole('button', { name: 'Download secrets.h' }))
    await soon(() => expect(toast.error).toHaveBeenCalledWith('Wi-Fi password is missing'))
    expect(files).toEqual([])
  })
  it('one that is given is saved', async () => {
    const files = saved()
    await show(<BuildView />, 'build', demo('studio-corner'), {
      '/credentials': credentials,
      '/secrets': () => new Response('#define WIFI_NAME "x"\n', { headers: { 'Content-Type': 'text/plain' } }),
    })
    await userEvent.click(await screen.findByRole('button', { name: 'Download secrets.h' }))
    await soon(() => expect(files).toEqual(['secrets.h']))
  })
})

describe('bench', () => {
  it('board: the plan writes a pin for each role, in one edit', async () => {
    const site = demo('studio-corner')
    const bare = { ...site, controllers: site.controllers.map((one) => ({ ...one, pins: {} })) }
    const keeper = await show(<BenchView />, 'bench', bare)
    await press('Plan pins')
    const { pins } = (await kept(keeper)).controllers[0]!
    expect(Object.keys(pins)).toHaveLength(4)
    expect(keeper.heard).toHaveLength(1)
  })
  it('board: a plan that would move wires shows them first, and keeps what is soldered unless told otherwise', async () => {
    const site = produce(demo('studio-corner'), (draft) => {
      const [a, b] = Object.values(draft.controllers[0]!.pins)
      ;[a!.pin, b!.pin] = [b!.pin, a!.pin]
    })
    const log = { entries: [], runs: [], trials: [] }
    const ticked = connectionsOf(site, 'corner').map((row) => ({ controller: 'corner', wire: wireKey(row), at: '' }))
    const keeper = await show(<BenchView />, 'bench', site, { '/log': () => Response.json({ ...log, wires: ticked }) })
    await press('Plan pins')
    const preview = await screen.findByRole('region', { name: 'Plan pins' })
    await within(preview).findByText('Nothing would move.')
    await userEvent.click(within(preview).getByLabelText(/^best pins for all/))
    expect(within(preview).getAllByText('▲ wired').length).toBeGreaterThan(0)
    expect(keeper.heard).toEqual([])
    await press(/^Move /)
    expect((await kept(keeper)).controllers[0]!.pins).not.toEqual(site.controllers[0]!.pins)
    expect(keeper.heard).toHaveLength(1)
  })
  it('board: what is taken out says what goes along, and is offered back there and then', async () => {
    const keeper = await bench('', 'studio-corner')
    await userEvent.click(
      within(screen.getByRole('region', { name: 'Roles' })).getByRole('button', { name: /Desk lamp/ }),
    )
    await userEvent.click(await screen.findByRole('button', { name: /^Delete Desk lamp/ }))
    await kept(keeper)
    const [words, { action }] = vi.mocked(toast).mock.lastCall as unknown as [
      string,
      { action: { onClick: () => void } },
    ]
    expect(words).toMatch(/^Desk lamp deleted, with \d+ ways?, .*\. S1 now works nothing\.$/)
    action.onClick()
    await soon(() => expect(keeper.site.channels).toHaveLength(2))
  })
  it('board: a new name is offered to what bears the old one, and all are renamed in one edit', async () => {
    const keeper = await bench('', 'studio-corner')
    await userEvent.click(
      within(screen.getByRole('region', { name: 'Roles' })).getByRole('button', { name: /Desk lamp/ }),
    )
    const field = within(await screen.findByRole('region', { name: 'Desk lamp' })).getAllByLabelText('Name')[0]!
    await userEvent.clear(field)
    await userEvent.type(field, 'Reading light{Enter}')
    expect(keeper.heard).toEqual([])
    expect(screen.getByText('These have the old name. Rename them to “Reading light” too?')).toBeDefined()
    await userEvent.click(screen.getByLabelText(/spoken name|entity/))
    await press('Rename these too')
    const site = await kept(keeper)
    expect(keeper.heard).toHaveLength(1)
    expect(site.channels[0]!.name).toBe('Reading light')
    expect(site.services[0]!.widgets.map(({ name }) => name)).toContain('Reading light')
    expect(JSON.stringify([site.ways, site.hubs]).toLowerCase()).toContain('desk lamp')
  })
  it('crossbar: a fill that passes a plan says so first, and is offered all the same', async () => {
    const site = produce(demo('fernhollow'), (draft) => {
      draft.ways = draft.ways.filter(({ kind }) => kind !== 'voice')
      const profile = plainCopy(serviceKindsOf(draft).find(({ id }) => id === 'voice-bridge')!)
      draft.profiles.services = [{ ...profile, limits: { ...profile.limits, devices: 2 } }]
    })
    const keeper = await show(<WaysView />, 'ways', site)
    await press('Fill the Voice column')
    expect(keeper.heard).toEqual([])
    const [words, { action }] = vi.mocked(toast.error).mock.lastCall as unknown as [
      string,
      { action: { onClick: () => void } },
    ]
    expect(words).toMatch(/^Not filled yet: .* needs \d+ devices; the plan of a .* allows 2\.$/)
    action.onClick()
    expect((await kept(keeper)).ways.filter(({ kind }) => kind === 'voice').length).toBeGreaterThan(2)
  })
  it('wiring: a tick is kept with the logbook', async () => {
    const sent: string[] = []
    const answers = {
      '/wires': () => {
        sent.push('wires')
        return Response.json({ ok: true })
      },
    }
    await show(<BenchView />, 'bench', demo('studio-corner'), answers)
    const box = screen.getAllByRole('checkbox', { name: /^U1 GND to A1 GND done/ })[0]!
    await userEvent.click(box)
    expect((box as HTMLInputElement).checked).toBe(true)
    expect(screen.getByText(/^1 of \d+ wires ticked off/)).toBeDefined()
    expect(sent).toEqual(['wires'])
  })
  it('supply: without one it says what cannot be judged; named, its budget is worked', async () => {
    const keeper = await bench('supply')
    expect(screen.getByText(/so its currents cannot be checked/)).toBeDefined()
    await press('Add supply')
    expect((await kept(keeper)).controllers[0]!.supply).not.toBeNull()
    expect(screen.getAllByText(/mA/).length).toBeGreaterThan(3)
  })
  it('contacts: each load with its currents and its verdict', async () => {
    await bench('contacts')
    for (const name of ['Desk lamp', 'Easel lamp']) {
      const [line] = screen.getAllByRole('row', { name: new RegExp(name) })
      expect(line!.textContent).toMatch(/A.*(fits|does not|too)/)
    }
  })
  it('wiring: the parts list counts what the document has', async () => {
    await bench('wiring')
    expect(screen.getByRole('row', { name: /2-way relay module/ }).textContent).toMatch(/^1/)
  })
  it('profiles: found by a word', async () => {
    await bench('profiles')
    write('Find a profile', '8-bit')
    expect(screen.getByRole('button', { name: '8-bit 5 V board' })).toBeDefined()
    expect(screen.queryByRole('button', { name: /RISC-V/ })).toBeNull()
  })
})

describe('logbook', () => {
  it('what is written goes to the server with its kind', async () => {
    const sent: unknown[] = []
    const keeper = await show(<LogbookView />, 'logbook', demo('studio-corner'))
    const pass = keeper.fetch
    vi.stubGlobal(
      'fetch',
      (path: string, request: { method: string; headers: Record<string, string>; body?: string }) => {
        if (request.method !== 'POST') return pass(path, request)
        sent.push(JSON.parse(request.body!))
        return Promise.resolve(Response.json({ id: 1 }, { status: 201 }))
      },
    )
    await userEvent.type(screen.getByLabelText('New note'), 'Relay 2 clicks twice')
    await userEvent.click(screen.getByLabelText('Mark as fault'))
    await press('Add note')
    await soon(() => expect(sent).toEqual([{ kind: 'fault', controller: null, text: 'Relay 2 clicks twice' }]))
  })
})
