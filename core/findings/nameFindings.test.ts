import { type Site } from '../site'
import { addKey, addGroup, addRemoteWay } from '../ways'
import { both, copyOf, voice, remote, repeats } from './changes.testkit'
import { sentences } from './sentences.testkit'

/** Spoken names, and the codes of remotes. */
sentences([
  {
    id: 'N01',
    severity: 'error',
    when: 'two devices are called the same',
    has: voice('bench lamp', 'Bench lamp'),
    unless: 'each has its own name',
    hasNot: voice('bench lamp', 'shelf rail'),
    says: /Two devices are called/,
  },
  {
    id: 'N02',
    severity: 'warning',
    when: 'two names sound alike',
    has: voice('relay two', 'relay to'),
    unless: 'they sound different',
    hasNot: voice('relay two', 'shelf rail'),
    says: /a number sounds like a word, 97 %/,
  },
  {
    id: 'N03',
    severity: 'warning',
    when: 'a device is called like a room',
    has: voice('hall'),
    unless: 'it is called differently',
    hasNot: voice('hall lamp'),
    says: /has the same name as the room “Hall”/,
  },
  {
    id: 'N03',
    severity: 'warning',
    when: 'a device is called like a group',
    has: both(voice('evening'), (s) => void addGroup(s, 'Evening', ['bench-lamp'])),
    unless: 'it is called differently',
    hasNot: both(voice('bench lamp'), (s) => void addGroup(s, 'Evening', ['bench-lamp'])),
    says: /the group “Evening”/,
  },
  {
    id: 'N04',
    severity: 'warning',
    when: 'a name holds a sign that nobody speaks',
    has: voice('bench_lamp'),
    unless: 'it is words',
    hasNot: voice('bench lamp'),
    says: /contains “_”, which cannot be spoken/,
  },
  {
    id: 'N05',
    severity: 'warning',
    when: "a name begins with a command's word",
    has: voice('turn table'),
    unless: 'it begins with another',
    hasNot: voice('potter table'),
    says: /begins with “turn”/,
  },
  {
    id: 'N05',
    severity: 'warning',
    when: 'a name means every one of its kind',
    has: voice('light'),
    unless: 'it means one',
    hasNot: voice('bench light'),
    says: /means all of them/,
  },
  {
    id: 'I01',
    severity: 'error',
    when: 'two keys of a remote have one code',
    has: remote(undefined, (s) => void addKey(s, s.remotes[0]!, 'Again', { protocol: 'nec', address: 4, command: 26 })),
    unless: 'each has its own',
    hasNot: remote(
      undefined,
      (s) => void addKey(s, s.remotes[0]!, 'Again', { protocol: 'nec', address: 4, command: 27 }),
    ),
    says: /NEC 04·1A is “Bench lamp” and “Again”/,
  },
  {
    id: 'I04',
    severity: 'error',
    when: 'two remotes with one code are heard by one receiver',
    has: remote(undefined, (s) => {
      s.remotes.push({ ...copyOf(s.remotes[0]!), id: 'second' as Site['remotes'][number]['id'], name: 'Second' })
    }),
    unless: 'they have different addresses',
    hasNot: remote(undefined, (s) => {
      const copy = copyOf(s.remotes[0]!)
      copy.keys[0]!.code = { protocol: 'nec', address: 9, command: 26 }
      s.remotes.push({ ...copy, id: 'second' as Site['remotes'][number]['id'], name: 'Second' })
    }),
    says: /one receiver hears both/,
  },
  {
    id: 'I02',
    severity: 'error',
    when: 'a key that repeats toggles',
    has: remote(undefined, repeats),
    unless: 'it goes up',
    hasNot: remote(
      undefined,
      both(repeats, (s) => {
        const way = s.ways.at(-1)!
        if (way.kind === 'remote') way.action = 'up'
      }),
    ),
    says: /repeats “toggle” every 300 ms/,
  },
  {
    id: 'I03',
    severity: 'error',
    when: 'a code of 16-bit address is also one of 8 bits',
    has: remote({ protocol: 'nec-ext', address: 0xfb04, command: 26 }),
    unless: 'it is not',
    hasNot: remote({ protocol: 'nec-ext', address: 0x1204, command: 26 }),
    says: /NEC with the 8-bit address 04/,
  },
  {
    id: 'I05',
    severity: 'error',
    when: "an address is out of the protocol's range",
    has: remote({ protocol: 'rc5', address: 40, command: 26 }),
    unless: 'it is within',
    hasNot: remote({ protocol: 'rc5', address: 30, command: 26 }),
    says: /address 40: rc5 has 0 to 31/,
  },
  {
    id: 'I06',
    severity: 'error',
    when: 'a key is asked of a controller without a receiver',
    has: (s) => addRemoteWay(s, s.channels[0]!),
    unless: 'it has one',
    hasNot: remote(),
    says: /has no infrared receiver/,
  },
])
