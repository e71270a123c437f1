import { expect } from 'vitest'
import type { HubPage, RigBoard, RigState, StandInPage } from '../core/api'
import { holderOf, serviceKindIn } from '../core/services'
import type { Limits, Site } from '../core/site'
import { intoServer, lampFanStrike } from './kinds.testkit'
import { testServer, until, type TestServer } from './server.testkit'

/** What a test has opened, and ends with it. */
export const open: { close(): Promise<unknown> | void }[] = []
export const closeAll = async (): Promise<void> => {
  for (const thing of open.splice(0).reverse()) await thing.close()
}
export const settled = (ms = 400) => new Promise((resolve) => setTimeout(resolve, ms))

/** A server with a site of lamp, fan and strike, and its rig: what a person does and sees, through its doors. */
export class House {
  constructor(
    readonly server: TestServer,
    readonly site: string,
  ) {}

  static async of(kinds: readonly string[], outage: 'local' | 'service' = 'local'): Promise<House> {
    const server = await testServer({ seed: false })
    open.push(server)
    return new House(server, await intoServer(server, lampFanStrike(kinds, 'Kinds', outage)))
  }

  path(rest: string): string {
    return `/api/sites/${this.site}${rest}`
  }
  async rig(on: boolean): Promise<void> {
    const answer = await this.server.ask('PUT', this.path('/rig'), { on })
    expect(answer.status, answer.text).toBe(200)
  }
  async state(): Promise<RigState> {
    return (await this.server.ask('GET', this.path('/rig'))).json as RigState
  }
  async board(): Promise<RigBoard> {
    return (await this.state()).boards[0]!
  }
  async outputs(): Promise<Record<string, number>> {
    return (await this.board()).outputs
  }
  async isUp(link: string): Promise<boolean> {
    return (await this.board()).links.find(({ id }) => id === link)?.state === 'up'
  }
  async ups(...links: string[]): Promise<void> {
    await until(async () => {
      const up = await Promise.all(links.map((link) => this.isUp(link)))
      return up.every(Boolean)
    }, 60_000)
    // the first levels are learned, and fire nothing
    await settled(200)
  }
  async said(text: RegExp): Promise<void> {
    await until(async () => (await this.board()).said.some((line) => text.test(line.text)), 15_000)
  }
  /** A finger at a switch, long enough for a board on a machine that is busy with other tests. */
  async press(input: string): Promise<void> {
    const send = (level: number) => this.server.ask('POST', this.path('/rig/box/events'), { pin: input, level })
    await send(0)
    await new Promise((resolve) => setTimeout(resolve, 200))
    await send(1)
    await new Promise((resolve) => setTimeout(resolve, 80))
  }
  async page(service: string): Promise<StandInPage> {
    return (await this.server.ask('GET', this.path(`/stand-ins/${service}`))).json as StandInPage
  }
  async hub(): Promise<HubPage> {
    return (await this.server.ask('GET', this.path('/hub'))).json as HubPage
  }
  async hubFaults(faults: Partial<HubPage['faults']>): Promise<void> {
    const body = { stopped: false, slowMs: 0, lose: false, replay: false, ...faults }
    expect((await this.server.ask('PUT', this.path('/hub/faults'), body)).status).toBe(200)
  }
  /** "hub/entity" of a channel. */
  async entity(channel: string): Promise<string> {
    const { site } = (await this.server.ask('GET', this.path(''))).json as { site: Site }
    const { id, entities } = site.hubs[0]!
    return `${id}/${entities.find((entity) => entity.channel === channel)!.id}`
  }
  /** Points of a service or a hub, those of lamp, fan and strike in order. */
  async points(holder: string): Promise<string[]> {
    const { site } = (await this.server.ask('GET', this.path(''))).json as { site: Site }
    return holderOf(site, holder)!.service.points.map((point) => point.id)
  }
  async says(channel: string, command: string): Promise<void> {
    const [hub, entity] = (await this.entity(channel)).split('/')
    const answer = await this.server.ask('POST', this.path('/hub/commands'), { kind: 'hub', hub, entity, command })
    expect(answer.status, answer.text).toBe(200)
  }
  async touch(service: string, widget: string, on: boolean, value?: number): Promise<void> {
    const body = { on, ...(value === undefined ? {} : { value }) }
    const answer = await this.server.ask('POST', this.path(`/stand-ins/${service}/widgets/${widget}`), body)
    expect(answer.status, answer.text).toBe(200)
  }
  async faults(service: string, faults: Partial<StandInPage['faults']>): Promise<void> {
    const body = { stopped: false, slowMs: 0, lose: false, replay: false, ...faults }
    expect((await this.server.ask('PUT', this.path(`/stand-ins/${service}/faults`), body)).status).toBe(200)
  }
  async type(key: string, value: string): Promise<void> {
    expect((await this.server.ask('PUT', this.path('/credentials'), { key, value })).status).toBe(200)
  }
  /** Another limit of a kind's plan, in the site's own copy of it. */
  async limit(kind: string, limits: Partial<Limits>): Promise<void> {
    const { site, revision } = (await this.server.ask('GET', this.path(''))).json as { site: Site; revision: number }
    const own = site.profiles.services.findIndex(({ id }) => id === kind)
    const profile = serviceKindIn(site, kind)!
    const value = { ...profile, limits: { ...profile.limits, ...limits } }
    const patch = [{ op: own < 0 ? 'add' : 'replace', path: `/profiles/services/${own < 0 ? '-' : own}`, value }]
    const tag = { 'If-Match': `"${revision}"` }
    const answer = await this.server.ask('PATCH', this.path(''), { label: 'a limit', patch }, tag)
    expect(answer.status, answer.text).toBe(200)
  }
  /** How often a contact has closed. */
  async closings(output: string): Promise<number> {
    return (await this.board()).said.filter(({ text }) => text === `${output} closes`).length
  }
}
