import type { Site } from '../site'
import { betterName, clashesOf, troubleOf, voiceWays, type Clash, type SpokenName } from '../voice'
import type { Check, Finding, Fix, Where } from './finding'

function whereOf(site: Site, name: SpokenName): Where {
  const way = site.ways.find((candidate) => candidate.id === name.id)
  const channel = site.channels.find((candidate) => candidate.id === way?.channel)
  return {
    thing: 'way',
    id: name.id,
    name: name.name,
    ...(channel ? { channel: channel.id, controller: channel.controller } : {}),
    step: 'ways',
    column: 'voice',
  }
}

const rename = (way: string, name: string): Fix => ({
  label: `Rename to “${name}”`,
  change: (draft) => {
    const target = draft.ways.find((candidate) => candidate.id === way)
    if (target?.kind === 'voice') target.name = name
  },
})

const KIND_WORDS = { device: 'device', room: 'the room', group: 'the group' } as const

function finding(site: Site, clash: Clash): Finding {
  const device = clash.b.kind === 'device' ? clash.b : clash.a
  const other = clash.b.kind === 'device' ? clash.a : clash.b
  const fixes = clash.proposal ? [rename(clash.proposal.way, clash.proposal.name)] : []
  const where = whereOf(site, device)
  if (other.kind !== 'device')
    return {
      id: 'N03',
      severity: 'warning',
      title: `Same name as ${KIND_WORDS[other.kind]}`,
      where,
      what: `The device “${device.name}” has the same name as ${KIND_WORDS[other.kind]} “${other.name}” (${clash.why}).`,
      why: 'The voice service may choose the other, or all of them.',
      fixes,
    }
  if (clash.why === 'the same')
    return {
      id: 'N01',
      severity: 'error',
      title: 'Voice name used twice',
      where,
      what: `Two devices are called “${device.name}”.`,
      why: 'The voice service asks which one, or switches both.',
      fixes,
    }
  return {
    id: 'N02',
    severity: 'warning',
    title: 'Names sound alike',
    where,
    what: `“${device.name}” and “${other.name}”: ${clash.why}, ${Math.round(clash.score * 100)} % alike.`,
    why: 'The wrong one may react.',
    fixes,
  }
}

/** N01 same name twice · N02 sounds alike · N03 a device called like a room or group */
export const namesClash: Check = (site) => clashesOf(site).map((clash) => finding(site, clash))

/** N04 symbols that nobody speaks · N05 leading verb, or a word that means every lamp */
export const namesHardToSay: Check = (site) =>
  voiceWays(site).flatMap((way): Finding[] => {
    const trouble = troubleOf(way.name)
    if (!trouble) return []
    const better = betterName(site, way.id)
    return [
      {
        id: trouble.finding,
        severity: 'warning',
        title: trouble.finding === 'N04' ? 'Name cannot be spoken' : 'Name begins like a command',
        where: whereOf(site, { kind: 'device', id: way.id, name: way.name }),
        what: `“${way.name}” ${trouble.what}.`,
        why:
          trouble.finding === 'N04'
            ? 'The service spells it out, or drops the signs and finds two equal names.'
            : 'The service takes the name for a command.',
        fixes: better ? [rename(way.id, better)] : [],
      },
    ]
  })

export const nameChecks: readonly Check[] = [namesClash, namesHardToSay]
