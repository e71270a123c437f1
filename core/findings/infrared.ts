import { codeName, codeTrouble } from '../infrared'
import { planAndWrite } from '../pins'
import { freshId, keyOf, remoteOf, type Key, type Remote, type Site } from '../site'
import { codeKey } from '../ways'
import { controllerPlace, type Check, type Finding, type Where } from './finding'

const whereOf = (remote: Remote, key: Key): Where => ({
  thing: 'key',
  id: key.id,
  name: key.name,
  controller: remote.controller,
  step: 'ways',
  side: 'remotes',
})

const keysOf = (site: Site): { remote: Remote; key: Key }[] =>
  site.remotes.flatMap((remote) => remote.keys.map((key) => ({ remote, key })))

/** I01 one code, two meanings: two keys of one remote · I04 two remotes overlap at one receiver */
export const codeTwice: Check = (site) => {
  const seen = new Map<string, { remote: Remote; key: Key }>()
  return keysOf(site).flatMap(({ remote, key }): Finding[] => {
    const place = `${remote.controller}/${codeKey(key.code)}`
    const first = seen.get(place)
    if (!first) {
      seen.set(place, { remote, key })
      return []
    }
    const same = first.remote.id === remote.id
    return [
      {
        id: same ? 'I01' : 'I04',
        severity: 'error',
        title: same ? 'Remote code used twice' : 'Two remotes share a code',
        where: whereOf(remote, key),
        what: same
          ? `${codeName(key.code)} is “${first.key.name}” and “${key.name}”.`
          : `${codeName(key.code)} is “${first.key.name}” of ${first.remote.name} and “${key.name}” of ` +
            `${remote.name}; one receiver hears both.`,
        why: 'Both keys do both actions.',
        fixes: [],
      },
    ]
  })
}

/** Every key that does something, with what it does. */
const keyDeedsOf = (site: Site): { readonly remote: string; readonly key: string; readonly action: string }[] => [
  ...site.ways.flatMap((way) =>
    way.kind === 'remote' ? [{ remote: way.remote, key: way.key, action: way.action }] : [],
  ),
  ...site.controls.flatMap(({ source, action }) =>
    source.kind === 'remote' ? [{ remote: source.remote, key: source.key, action }] : [],
  ),
]

const oncePress = (remote: string, key: string) => (draft: Site) => {
  draft.remotes.find((r) => r.id === remote)!.keys.find((k) => k.id === key)!.repeat = { policy: 'once' }
}

/** What is harmless when it is done again and again. */
const REPEATABLE = ['up', 'down']
const ON_DOORS = ['pulse', 'open', 'close']

/** I02 toggle with repeat */
export const toggleRepeats: Check = (site) =>
  keyDeedsOf(site).flatMap(({ remote: remoteId, key: keyId, action }): Finding[] => {
    const remote = remoteOf(site, remoteId)
    const key = keyOf(site, remoteId, keyId)
    if (!remote || key?.repeat.policy !== 'repeat' || REPEATABLE.includes(action)) return []
    const door = ON_DOORS.includes(action)
    return [
      {
        id: 'I02',
        severity: door ? 'danger' : 'error',
        title: `Repeating key does “${action}”`,
        where: whereOf(remote, key),
        what: `“${key.name}” repeats “${action}” every ${key.repeat.everyMs} ms while it is held.`,
        why: door ? 'A door is pulsed again and again.' : 'Held a moment too long, it turns off again, or on.',
        fixes: [{ label: 'Set: once per press', change: oncePress(remoteId, keyId) }],
      },
    ]
  })

/** I03 frame fails its own check: an extended NEC address that is a byte and its inverse is really the short form */
export const failsItsCheck: Check = (site) =>
  keysOf(site).flatMap(({ remote, key }): Finding[] => {
    const { code } = key
    if (code.protocol !== 'nec-ext' || ((code.address & 0xff) ^ (code.address >> 8)) !== 0xff) return []
    return [
      {
        id: 'I03',
        severity: 'error',
        title: 'Code is decoded differently',
        where: whereOf(remote, key),
        what:
          `${codeName(code)} has an address whose two bytes are each other's inverse: that is NEC with the ` +
          `8-bit address ${(code.address & 0xff).toString(16).toUpperCase().padStart(2, '0')}.`,
        why: 'The receiver decodes the short form, and no key has that code.',
        fixes: [
          {
            label: 'Change to the short form',
            change: (draft) => {
              draft.remotes.find((r) => r.id === remote.id)!.keys.find((k) => k.id === key.id)!.code = {
                protocol: 'nec',
                address: code.address & 0xff,
                command: code.command,
              }
            },
          },
        ],
      },
    ]
  })

/** I05 code beyond its protocol's fields */
export const codeBeyondField: Check = (site) =>
  keysOf(site).flatMap(({ remote, key }): Finding[] => {
    const trouble = key.code.protocol === 'unknown' ? null : codeTrouble(key.code)
    return trouble === null
      ? []
      : [
          {
            id: 'I05',
            severity: 'error',
            title: 'Code does not fit its protocol',
            where: whereOf(remote, key),
            what: `“${key.name}”: ${trouble}.`,
            why: 'No remote can send it: a digit is missing or the protocol is wrong. Teach the key again.',
            fixes: [],
          },
        ]
  })

/** I06 remote without a receiver at its controller */
export const noReceiver: Check = (site) =>
  site.remotes.flatMap((remote): Finding[] => {
    const controller = site.controllers.find((candidate) => candidate.id === remote.controller)
    if (
      !controller ||
      remote.keys.length === 0 ||
      controller.parts.some((part) => part.profile === 'infrared-receiver')
    )
      return []
    return [
      {
        id: 'I06',
        severity: 'error',
        title: 'Remote points at a controller without a receiver',
        where: {
          ...controllerPlace(controller),
          step: 'bench',
        },
        what: `${remote.name} points at ${controller.name}, which has no infrared receiver.`,
        why: 'No key is received.',
        fixes: [
          {
            label: 'Add a receiver',
            change: (draft) => {
              const target = draft.controllers.find((c) => c.id === controller.id)!
              target.parts.push({
                id: freshId(target.parts, 'receiver', 'part') as (typeof target.parts)[number]['id'],
                profile: 'infrared-receiver',
                name: 'Remote receiver',
              })
              planAndWrite(draft, controller.id)
            },
          },
        ],
      },
    ]
  })

export const infraredChecks: readonly Check[] = [noReceiver, codeTwice, toggleRepeats, failsItsCheck, codeBeyondField]
