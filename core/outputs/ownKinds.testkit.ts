import { addSecret, addServiceKind, setWire } from '../services'
import type { Site } from '../site'

/**
 * Three kinds of the maker's own, each written down from a description with what the wire editor has, and no code.
 *
 * Letterbox: "A broker. Log in as your box's name with its letter key. Put your news on box/NAME/out as
 * {"THING":PERCENT}; I put wishes on box/NAME/in as {"THING":PERCENT,"letter":N}, N rising, and the last N on
 * box/NAME/letter. Every letter, yours and mine, ends with a blank and its seal: HMAC-SHA-256 with the seal key over
 * the topic, a colon, and the letter."
 *
 * Ledger: "HTTP. Send your account key as X-Account. POST /entry/NUMBER with v=VALUE to write; GET /entry/NUMBER gives
 * the bare value. Not more than once a second, please."
 *
 * Bell: "I ring your box: POST /NAME/PERCENT with the ring key first in the path, on the port that you like. Tell me
 * what changed: PUT /bells/BOX/NAME with the percent as the body, and the ring key as X-Ring."
 */
export function addLetterbox(site: Site): string {
  const kind = addServiceKind(site, 'letterbox', 'service')
  addSecret(site, kind, 'Seal key')
  setWire(site, kind, {
    transport: 'mqtt',
    ...{ host: '{host}', port: 1_883, tls: false, keepAliveS: 60 },
    ...{ client: '{controller}', user: '{controller}', password: '{credential:access-key}' },
    status: null,
    log: null,
    value: { form: 'range', least: 0, most: 100 },
    say: { topic: 'box/{controller}/out', payload: '{"{key}":{value}}', qos: 1, retain: false },
    ask: { topic: 'box/{controller}/in', value: '/{key}' },
    held: null,
    count: { topic: 'box/{controller}/letter', value: '/letter' },
    sign: { key: '{credential:seal-key}', over: '{topic}:{payload}' },
  })
  return kind
}

export function addLedger(site: Site): string {
  const kind = addServiceKind(site, 'ledger', 'service')
  setWire(site, kind, {
    transport: 'http',
    ...{ host: '{host}', port: 80, tls: false },
    headers: ['X-Account: {credential:access-key}'],
    value: { form: 'number' },
    write: { method: 'POST', path: '/entry/{number}', body: 'v={value}' },
    read: { path: '/entry/{number}', of: 'each', value: null, everyMs: 3_000 },
  })
  return kind
}

export function addBell(site: Site): string {
  const kind = addServiceKind(site, 'bell', 'service')
  setWire(site, kind, {
    transport: 'hook',
    ...{ port: 8_080, key: '{credential:access-key}', keyIn: 'path', path: '/{key}/{value}' },
    value: { form: 'range', least: 0, most: 100 },
    call: {
      ...{ host: '{host}', port: 80, tls: false, headers: ['X-Ring: {credential:access-key}'] },
      request: { method: 'PUT', path: '/bells/{controller}/{key}', body: '{value}' },
    },
  })
  return kind
}
