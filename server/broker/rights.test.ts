import { describe, expect, it } from 'vitest'
import { mayPublish, maySubscribe, nameOfUser, userNamed, type BrokerUser } from './rights'

const corner: BrokerUser = { kind: 'controller', site: 'studio', controller: 'corner' }
const service: BrokerUser = { kind: 'service', site: 'studio' }
const hub: BrokerUser = { kind: 'hub', site: 'studio' }

describe('who may publish what', () => {
  it.each([
    ['vestibule/studio/corner/status', true, false, false],
    ['vestibule/studio/corner/log', true, false, false],
    ['vestibule/studio/corner/lamp/state', true, false, false],
    ['vestibule/studio/corner/lamp/gesture', true, false, false],
    ['vestibule/studio/corner/vp/3/state', true, false, false],
    ['vestibule/studio/corner/sensor/air', true, false, false],
    ['vestibule/studio/corner/lamp/set', false, false, true],
    ['vestibule/studio/corner/vp/3/set', false, true, false],
    ['vestibule/studio/corner/vp/3/held', false, true, false],
    ['vestibule/studio/watch', false, false, true],
    ['vestibule/studio/other/lamp/state', false, false, false],
    ['vestibule/studio/other/lamp/set', false, false, true],
    ['vestibule/elsewhere/corner/lamp/set', false, false, false],
    ['vestibule/elsewhere/corner/status', false, false, false],
    ['vestibule/studio/corner/vp/x/set', false, false, false],
    ['vestibule/studio/corner/a/b/c/state', false, false, false],
    ['vestibule/studio/corner/+/state', false, false, false],
    ['$SYS/anything', false, false, false],
  ])('%s: controller %s, service %s, hub %s', (topic, byController, byService, byHub) =>
    expect([mayPublish(corner, topic), mayPublish(service, topic), mayPublish(hub, topic)]).toEqual([
      byController,
      byService,
      byHub,
    ]),
  )
})

describe('who may subscribe to what', () => {
  it.each([
    ['vestibule/studio/corner/+/set', true, true, true],
    ['vestibule/studio/watch', true, true, true],
    ['vestibule/studio/+/status', false, true, true],
    ['vestibule/studio/corner2/+/set', false, true, true],
    ['vestibule/+/corner/+/set', false, false, false],
    ['vestibule/elsewhere/#', false, false, false],
    ['#', false, false, false],
    ['$SYS/#', false, false, false],
  ])('%s: controller %s, service %s, hub %s', (filter, byController, byService, byHub) =>
    expect([maySubscribe(corner, filter), maySubscribe(service, filter), maySubscribe(hub, filter)]).toEqual([
      byController,
      byService,
      byHub,
    ]),
  )
})

describe('user names', () => {
  it.each([corner, service, hub])('$kind reads back from its name', (user) =>
    expect(userNamed(nameOfUser(user))).toEqual(user),
  )
  it.each(['', 'studio', 'studio.', '.corner', 'a.b.c'])('%j is nobody', (name) =>
    expect(userNamed(name)).toBeUndefined(),
  )
  it('no two users share a name, whatever their ids', () =>
    expect(nameOfUser({ kind: 'controller', site: 'a-b', controller: 'c' })).not.toBe(
      nameOfUser({ kind: 'controller', site: 'a', controller: 'b-c' }),
    ))
})
