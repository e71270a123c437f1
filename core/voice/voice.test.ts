import { describe, expect, it } from 'vitest'
import { cleanSite } from '../findings/cleanSite.testkit'
import {
  newFeed,
  newInput,
  newPaired,
  newPulsed,
  newStepped,
  newSwitched,
  type Channel,
  type RoomId,
  type ServiceId,
  type Site,
} from '../site'
import { addGroup, addGroupEntity, addGroupName, addHubWay, addVoiceWay, firstVoiceService } from '../ways'
import { betterName, clashesOf, heardAs, likeness, resolveUtterance, troubleOf } from '.'

/** A house with every kind of channel, each with a spoken name. */
function house(): Site {
  const site = cleanSite()
  site.rooms.push({ id: 'glaze-room' as RoomId, name: 'Glaze room' }, { id: 'yard' as RoomId, name: 'Yard' })
  const corner = site.controllers[0]!
  const add = (channel: Channel, room: string, name: string): void => {
    channel.room = room as RoomId
    site.channels.push(channel)
    addHubWay(site, channel)
    addVoiceWay(site, channel).name = name
  }
  for (const [i, name] of ['bench lamp', 'shelf light'].entries()) addVoiceWay(site, site.channels[i]!).name = name
  add(
    newStepped(site, 'Fan', corner, { contacts: 3, patterns: [[], [0], [1], [0, 1], [2]], never: [], gapMs: 30 }),
    'glaze-room',
    'dust fan',
  )
  add(newSwitched(site, 'Booth', corner), 'glaze-room', 'booth lights')
  add(newPulsed(site, 'Gate', corner), 'yard', 'gate')
  const contact = newInput(site, 'Shutter contact', corner, 'contact')
  site.inputs.push(contact)
  add(newPulsed(site, 'Door', corner, { contact: contact.id }), 'yard', 'barn door')
  add(newPaired(site, 'Blind', corner), 'hall', 'window blind')
  add(newFeed(site, 'Spots', corner), 'hall', 'spots')
  addGroup(site, 'Evening', ['bench-lamp', 'spots'])
  const glazing = addGroup(site, 'Glazing mode', ['fan', 'booth', 'bench-lamp'])
  addGroupEntity(site, glazing)
  addGroupName(glazing, firstVoiceService(site))
  return site
}

const site = house()

/**
 * One line for what an utterance is taken for: "bench lamp: on", "Hall: off", "?" for nothing, "a | b" for undecided.
 */
function taken(utterance: string): string {
  const found = resolveUtterance(site, utterance)
  switch (found.kind) {
    case 'device':
      return `${found.way.name}: ${found.spoken.action === 'level' ? `level ${found.spoken.level}` : found.spoken.action}`
    case 'many':
      return `${found.ways
        .map((way) => way.name)
        .sort()
        .join(' + ')}: ${found.spoken.action}`
    case 'group':
      return `${found.what} by ${found.through}: ${found.spoken.action}`
    case 'ambiguous':
      return found.ways
        .map((way) => way.name)
        .sort()
        .join(' | ')
    case 'nothing':
      return '?'
  }
}

const TABLE: [string, string][] = [
  ['turn on the bench lamp', 'bench lamp: on'],
  ['turn the bench lamp on', 'bench lamp: on'],
  ['bench lamp on', 'bench lamp: on'],
  ['switch on bench lamp', 'bench lamp: on'],
  ['switch the bench lamp off', 'bench lamp: off'],
  ['Turn off the Bench Lamp, please', 'bench lamp: off'],
  ['could you turn off the bench lamp now', 'bench lamp: off'],
  ['bench_lamp off', 'bench lamp: off'],
  ['toggle the bench lamp', 'bench lamp: toggle'],
  ['turn on the bench lamps', 'bench lamp: on'],
  ['turn on a bench lamp', 'bench lamp: on'],
  ['kill the bench lamp', 'bench lamp: off'],
  ['put the bench lamp on', 'bench lamp: on'],
  ['turn on the bench lump', 'bench lamp: on'],
  ['turn on the shelf light', 'shelf light: on'],
  ['shelf lights off', 'shelf light: off'],
  ['shut off the shelf light', 'shelf light: off'],
  ['turn the shelf light on please', 'shelf light: on'],
  ['set the dust fan to 3', 'dust fan: level 3'],
  ['set dust fan to three', 'dust fan: level 3'],
  ['set dust fan to level two', 'dust fan: level 2'],
  ['set dust fan to to', 'dust fan: level 2'],
  ['set dust fan to four', 'dust fan: level 4'],
  ['set dust fan to for', 'dust fan: level 4'],
  ['set the dust fan to 50 percent', 'dust fan: level 2'],
  ['set the dust fan to 50%', 'dust fan: level 2'],
  ['set the dust fan to half', 'dust fan: level 2'],
  ['set the dust fan to 100 percent', 'dust fan: level 4'],
  ['set the dust fan to 1 percent', 'dust fan: level 1'],
  ['set the dust fan to zero', 'dust fan: level 0'],
  ['turn the dust fan up', 'dust fan: up'],
  ['turn up the dust fan', 'dust fan: up'],
  ['turn down the dust fan', 'dust fan: down'],
  ['dust fan faster', 'dust fan: up'],
  ['dust fan slower', 'dust fan: down'],
  ['speed up the dust fan', 'dust fan: up'],
  ['turn on the dust fan', 'dust fan: on'],
  ['stop the dust fan', 'dust fan: off'],
  ['run the dust fan', 'dust fan: on'],
  ['turn on the booth lights', 'booth lights: on'],
  ['turn on the glaze room booth lights', 'booth lights: on'],
  ['turn on the booth lights in the glaze room', 'booth lights: on'],
  ['booth light off', 'booth lights: off'],
  ['open the gate', 'gate: pulse'],
  ['unlock the gate', 'gate: pulse'],
  ['buzz the gate', 'gate: pulse'],
  ['close the gate', '?'],
  ['turn off the gate', '?'],
  ['open the barn door', 'barn door: open'],
  ['close the barn door', 'barn door: close'],
  ['shut the barn door', 'barn door: close'],
  ['lock the barn door', 'barn door: close'],
  ['raise the window blind', 'window blind: a'],
  ['lower the window blind', 'window blind: b'],
  ['window blind up', 'window blind: a'],
  ['stop the window blind', 'window blind: stop'],
  ['close the window blind', 'window blind: b'],
  ['set the window blind to 50 percent', '?'],
  ['turn on the spots', 'spots: on'],
  ['turn off the spot', 'spots: off'],
  ['turn off the glaze room', 'booth lights + dust fan: off'],
  ['turn off everything in the glaze room', 'booth lights + dust fan: off'],
  ['turn everything off in the yard', 'barn door + gate: off'],
  ['turn off all lights in the glaze room', 'booth lights: off'],
  ['all lights off', 'bench lamp + booth lights + shelf light + spots: off'],
  ['turn off evening', 'bench lamp + spots: off'],
  ['turn on the evening', 'bench lamp + spots: on'],
  ['turn on glazing mode', 'group Glazing mode by hub: on'],
  ['glazing mode off', 'group Glazing mode by hub: off'],
  ['set glazing mode to 3', '?'],
  ['turn on the glaze room light', 'booth lights: on'],
  ['glaze room lights off', 'booth lights: off'],
  ['turn on the glaze room fan', 'dust fan: on'],
  ['turn on the yard light', '?'],
  ['turn on', '?'],
  ['bench lamp', '?'],
  ['turn on the kettle', '?'],
  ['what time is it', '?'],
  ['', '?'],
]

describe(`${TABLE.length} utterances`, () => {
  it('are at least sixty', () => expect(TABLE.length).toBeGreaterThanOrEqual(60))
  it.each(TABLE)('“%s” is %s', (utterance, expected) => expect(taken(utterance)).toBe(expected))
  it('says why', () => {
    const found = resolveUtterance(site, 'turn on the bench lamp')
    expect(found.why).toContain('asks: on')
    expect(found.why.join(' ')).toMatch(/“bench lamp” fits best \(1\.00\)/)
  })
  it('two names that fit equally leave it undecided', () => {
    const twice = house()
    addVoiceWay(twice, twice.channels[3]!).name = 'bench lamp'
    expect(resolveUtterance(twice, 'bench lamp on').kind).toBe('ambiguous')
  })
})

describe('how a name is heard', () => {
  it.each([
    ['relay_two', 'relay two'],
    ['Relay 2', 'relay two'],
    ['relay to', 'relay two'],
    ['the relay too', 'relay two'],
    ['light for', 'light four'],
    ['Light 4', 'light four'],
    ['Ofen-Lüfter', 'ofen lufter'],
    ['bench lights', 'bench light'],
  ])('%s is “%s”', (name, heard) => expect(heardAs(name).join(' ')).toBe(heard))
})

describe('likeness', () => {
  it.each([
    ['bench lamp', 'Bench Lamp', 'the same'],
    ['relay two', 'relay too', 'a number sounds like a word'],
    ['relay 8', 'relay ate', 'a number sounds like a word'],
    ['write lamp', 'right lamp', 'sounds the same'],
    ['kiln fan', 'kilns fann', 'sounds the same'],
    ['corridor lamp', 'corridoor lamp', 'sounds the same'],
    ['fan', 'glaze fan', 'one lies within the other'],
  ])('%s and %s: %s', (a, b, why) => expect(likeness(a, b).why).toBe(why))
  it.each([
    ['bench lamp', 'shelf lamp'],
    ['glaze booth', 'drying rack'],
    ['yard light', 'barn light'],
    ['dust fan', 'rack fan'],
  ])('%s and %s do not clash', (a, b) => expect(likeness(a, b).score).toBeLessThan(0.8))
  it('is symmetric', () => expect(likeness('fan', 'glaze fan')).toEqual(likeness('glaze fan', 'fan')))
})

describe('clashes', () => {
  it('are ranked, each with a name that does not clash', () => {
    const twice = house()
    twice.ways.forEach((way) => {
      if (way.kind === 'voice' && way.name === 'shelf light') way.name = 'bench lamp'
    })
    const [worst] = clashesOf(twice)
    expect(worst).toMatchObject({ score: 1, why: 'the same' })
    const name = worst!.proposal!.name
    expect(
      clashesOf({
        ...twice,
        ways: twice.ways.map((way) =>
          way.id === worst!.proposal!.way && way.kind === 'voice' ? { ...way, name } : way,
        ),
      }),
    ).toEqual([])
  })
  it('the same name in two assistants is none, and each finds the lamp', () => {
    const twice = house()
    const other = addVoiceWay(twice, twice.channels[0]!)
    twice.services.push({ ...twice.services.find(({ id }) => id === other.service)!, id: 'second' as ServiceId })
    Object.assign(other, { name: 'bench lamp', service: 'second' })
    expect(clashesOf(twice)).toEqual([])
    expect(resolveUtterance(twice, 'turn on the bench lamp').kind).toBe('device')
  })
  it('the house has none', () => expect(clashesOf(site)).toEqual([]))
  it('a proposal names the place', () =>
    expect(betterName(site, site.ways.find((way) => way.kind === 'voice' && way.name === 'gate')!.id)).toContain(
      'yard',
    ))
})

describe('names that nobody speaks', () => {
  it.each([
    ['bench_lamp', 'N04'],
    ['lamp #1', 'N04'],
    ['', 'N04'],
    ['turn table', 'N05'],
    ['light', 'N05'],
    ['open shelf', 'N05'],
  ])('%j is %s', (name, id) => expect(troubleOf(name)?.finding).toBe(id))
  it.each(['bench lamp', "potter's lamp", 'Lüfter'])('%s is fine', (name) => expect(troubleOf(name)).toBeNull())
})
