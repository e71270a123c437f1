import { soon } from '../soon.testkit'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { toast } from 'sonner'
import { FANS, modulesIn } from '../../core/boards'
import { placeRole, planAndWrite, replanRoles, writePlan, planPins } from '../../core/pins'
import * as services from '../../core/services'
import {
  CHANNEL_KINDS,
  controllersOfGroup,
  newChannel,
  newStepped,
  parseSite,
  plainCopy,
  readSite,
  rolesOf,
  type Site,
} from '../../core/site'
import * as ways from '../../core/ways'
import { readFileSync } from 'node:fs'
import { keepProfile } from '../views/bench/profiles'
import { edit, loadSite, undo } from './editing'
import { Keeper } from './keeper.testkit'
import { store } from './store'

vi.mock('sonner', () => ({ toast: Object.assign(vi.fn(), { error: vi.fn(), success: vi.fn() }) }))

/**
 * Every function that writes into a draft, through the door that the interface uses: a real draft of a demo site, a
 * real
 * patch, a server that keeps it. What works on a plain document can still throw on a draft.
 */
const demo = (id: string): Site => {
  const read = readSite(readFileSync(`demo/${id}.json`, 'utf8'))
  if (!read.ok) throw read.error
  return read.value
}

let keeper: Keeper
const open = async (site: Site) => {
  keeper = new Keeper(site)
  vi.stubGlobal('fetch', keeper.fetch)
  await store.dispatch(loadSite(site.id))
}
beforeEach(() => vi.stubGlobal('requestAnimationFrame', (run: () => void) => setTimeout(run)))
afterEach(() => {
  vi.unstubAllGlobals()
  vi.clearAllMocks()
})
const state = () => store.getState().site

/**
 * Changes the site by the door, and holds that nothing is refused, that server and screen agree, and that undo leads
 * back.
 */
async function byTheDoor(change: (draft: Site) => void): Promise<Site> {
  const before = state().site!
  store.dispatch(edit('a change', change))
  await soon(() => expect(state().waiting.length).toBe(0))
  expect(vi.mocked(toast.error).mock.calls).toEqual([])
  const after = state().site!
  expect(keeper.site).toEqual(after)
  const parsed = parseSite(plainCopy(after))
  expect(parsed.ok ? 'fine' : parsed.error.message).toBe('fine')
  await store.dispatch(undo())
  expect(state().site).toEqual(before)
  return after
}

const lamp = (site: Site) => site.channels.find((channel) => channel.kind === 'switched')!
const app = (site: Site) => site.services.find((service) => service.points.length > 1)!
const withKeys = (site: Site) => site.remotes.find((remote) => remote.keys.length > 0)!

/** What each function is tried with; it must change something in the demo. */
const WRITERS: Record<string, (site: Site) => unknown> = {
  addAppWay: (s) => ways.addAppWay(s, lamp(s)),
  addControl: (s) => ways.addControl(s, plainCopy(s.controls[0]!)),
  addGroup: (s) => ways.addGroup(s, 'All lamps', [lamp(s).id]),
  addGroupEntity: (s) => ways.addGroupEntity(s, s.groups[0]!),
  addGroupName: (s) => ways.addGroupName(s.groups[0]!, ways.firstVoiceService(s)),
  addGroupPoint: (s) => ways.addGroupPoint(s, s.groups[0]!, controllersOfGroup(s, s.groups[0]!)[0]!.id),
  addHubWay: (s) => ways.addHubWay(s, lamp(s)),
  addKey: (s) => ways.addKey(s, withKeys(s), 'Another'),
  addLinkWay: (s) => {
    const id = lamp(s).controller
    ways.addLinkWay(s, lamp(s), ways.linkFor(s, id, 'serial'), ways.freeChar(s, id), 'toggle')
  },
  addLinkWays: (s) => ways.addLinkWays(s, lamp(s), 'serial'),
  addModePoint: (s) => ways.addModePoint(s, s.controllers[0]!),
  addRemoteWay: (s) => ways.addRemoteWay(s, lamp(s)),
  addRule: (s) => ways.addRule(s, lamp(s)),
  addSensor: (s) => ways.addSensor(s, s.controllers[0]!.id),
  addSensorPoint: (s) => ways.addSensorPoint(s, s.sensors[0]!),
  addSecret: (s) => services.addSecret(s, 'datapoint', 'Second key'),
  addServiceKind: (s) => services.addServiceKind(s, 'own kind', 'service'),
  addSwitchFor: (s) =>
    ways.addSwitchFor(
      s,
      lamp(s),
      'momentary',
      s.controllers.find(({ id }) => id === lamp(s).controller)!,
    ),
  addVoiceWay: (s) => ways.addVoiceWay(s, lamp(s)),
  addWallWay: (s) =>
    ways.addWallWay(
      s,
      lamp(s),
      s.inputs.find((input) => input.controller === lamp(s).controller)!,
    ),
  bindKey: (s) => ways.bindKey(s, lamp(s), withKeys(s), withKeys(s).keys[0]!, 'toggle'),
  duplicateController: (s) =>
    s.controllers.forEach(({ id, name }) => ways.duplicateController(s, id, `${name} again`, 'Attic')),
  fillColumn: (s) =>
    ways.fillColumn(s, 'app', { channels: s.channels.map(({ id }) => id) }) ?? ways.addGroup(s, 'x', []),
  firstHub: (s) => {
    for (const { id } of [...s.hubs]) ways.removeHub(s, id)
    ways.firstHub(s)
  },
  giveWallWay: (s) => ways.giveWallWay(s, lamp(s)),
  linkFor: (s) => {
    for (const { id } of [...s.links]) ways.removeLink(s, id)
    ways.linkFor(s, s.controllers[0]!.id, 'nearby')
  },
  makeUsualWay: (s) => ways.makeUsualWay(s, lamp(s), 'remote'),
  moveChannel: (s) => ways.moveChannel(s, s.channels[1]!.id, s.channels[0]!.id),
  moveWidget: (s) => ways.moveWidget(s, app(s).id, app(s).widgets[1]!.id, app(s).widgets[0]!.id),
  remoteFor: (s) =>
    ways.remoteFor(s, s.controllers.find(({ id }) => !s.remotes.some((remote) => remote.controller === id))!.id),
  removeChannel: (s) => ways.removeChannel(s, s.channels[0]!.id),
  removeControl: (s) => ways.removeControl(s, s.controls[0]!.id),
  removeController: (s) => ways.removeController(s, s.controllers[0]!.id),
  removeGroupWay: (s) => {
    ways.addGroupPoint(s, s.groups[0]!, controllersOfGroup(s, s.groups[0]!)[0]!.id)
    ways.addGroupEntity(s, s.groups[0]!)
    ways.removeGroupWay(s, s.groups[0]!.id, 0)
  },
  removeGroup: (s) => ways.removeGroup(s, s.groups[0]!.id),
  removeHub: (s) => ways.removeHub(s, s.hubs[0]!.id),
  removeInput: (s) => ways.removeInput(s, s.inputs[0]!.id),
  removeKey: (s) => ways.removeKey(s, withKeys(s).id, withKeys(s).keys[0]!.id),
  removeLink: (s) => ways.removeLink(s, s.links[0]!.id),
  removePart: (s) => {
    const holder = s.controllers.find(({ parts }) => parts.length > 0)!
    ways.removePart(s, holder.id, holder.parts[0]!.id)
  },
  removePoint: (s) => ways.removePoint(s, app(s).id, app(s).points[0]!.id),
  removeRemote: (s) => ways.removeRemote(s, s.remotes[0]!.id),
  removeRule: (s) => ways.removeRule(s, s.rules[0]!.id),
  removeSensor: (s) => ways.removeSensor(s, s.sensors[0]!.id),
  removeService: (s) => ways.removeService(s, app(s).id),
  renameAlong: (s) => ways.renameAlong(s, s.channels[0]!.id, 'Another name', new Set()),
  removeSecret: (s) => services.removeSecret(s, 'datapoint', 'board-key'),
  removeWay: (s) => ways.removeWay(s, s.ways[0]!.id),
  renumberPoints: (s) => ways.renumberPoints(s, app(s).id, app(s).points[0]!.controller, 60),
  setInputKind: (s) => ways.setInputKind(s, s.inputs.find(({ kind }) => kind === 'momentary')!.id, 'rocker'),
  setMemberLevel: (s) => ways.setMemberLevel(s, s.groups[0]!.id, s.groups[0]!.members[0]!, 0),
  setMember: (s) => ways.setMember(s, s.groups[0]!.id, s.groups[0]!.members[0]!, false),
  swapPoints: (s) => ways.swapPoints(s, app(s).id, app(s).points[0]!.id, app(s).points[1]!.id),
  addServiceOfKind: (s) => services.addServiceOfKind(s, services.SERVICE_KINDS[0]!.id),
  keepServiceKind: (s) => services.keepServiceKind(s, { ...services.SERVICE_KINDS[0]!, name: 'Ours' }),
  setLimit: (s) => services.setLimit(s, app(s).kind, 'devices', 3),
  setWire: (s) => services.setWire(s, app(s).kind, { ...services.DATAPOINT_WIRE, port: 1884 }),
}

const CHANGES = /^(add|bind|duplicate|fill|give|keep|make|move|remove|rename|renumber|set|swap)[A-Z]/

describe('everything that writes into a draft', () => {
  it('is tried below', () => {
    const names = [...Object.keys(ways), ...Object.keys(services)].filter((name) => CHANGES.test(name))
    expect(names.length).toBeGreaterThan(40)
    expect(names.filter((name) => !(name in WRITERS))).toEqual([])
  })

  it.each(Object.entries(WRITERS))('%s', async (_, write) => {
    await open(demo('fernhollow'))
    const after = await byTheDoor((draft) => void write(draft))
    expect(keeper.heard[0]).toMatch(/^a change at/)
    expect(after).not.toEqual(state().site)
  })

  it.each(['fernhollow', 'studio-corner', 'before-review'])(
    'pins of %s: planned, planned again, placed by hand',
    async (id) => {
      await open(demo(id))
      for (const { id: controller } of demo(id).controllers) {
        await byTheDoor((draft) => {
          for (const one of draft.controllers) if (one.id === controller) one.pins = {}
          planAndWrite(draft, controller)
        })
        await byTheDoor((draft) =>
          replanRoles(
            draft,
            controller,
            rolesOf(draft, controller).map((role) => role.id),
          ),
        )
        await byTheDoor((draft) => writePlan(draft, planPins(plainCopy(draft), controller)))
      }
      const { id: first, pins } = demo(id).controllers[0]!
      const [role, choice] = Object.entries(pins)[0]!
      await byTheDoor((draft) => placeRole(draft, first, role, choice.pin))
    },
  )

  it.each(CHANNEL_KINDS)('a new channel, %s', async (kind) => {
    await open(demo('studio-corner'))
    const after = await byTheDoor((draft) => {
      draft.channels.push(newChannel(draft, 'New one', draft.controllers[0]!, kind))
      for (const column of ways.COLUMNS.filter((one) => one !== 'wall'))
        ways.makeUsualWay(draft, draft.channels.at(-1)!, column)
    })
    expect(after.channels.at(-1)).toMatchObject({ kind, name: 'New one' })
  })

  it('a fan by a profile of the maker’s own', async () => {
    await open(demo('studio-corner'))
    await byTheDoor((draft) => {
      keepProfile(draft, { ...FANS[0]!, id: 'my-fan', name: 'My fan' })
      const mine = modulesIn(draft).find((module) => module.id === 'my-fan')
      if (mine?.kind === 'fan-regulator') draft.channels.push(newStepped(draft, 'Fan', draft.controllers[0]!, mine))
    })
  })
})
