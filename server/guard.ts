import { createHash, timingSafeEqual } from 'node:crypto'
import type { RequestHandler } from 'express'
import { Refusal } from './refusal'
import { Slowed } from './slowed'

export interface Guard {
  /** Middleware for requests. */
  readonly check: RequestHandler
  /** The same rule for a WebSocket upgrade. */
  readonly allows: (
    headers: { host?: string; origin?: string; authorization?: string },
    /** of the other end; whoever guesses is slowed by it */
    address?: string,
  ) => boolean
}

const LOOPBACK = ['127.0.0.1', 'localhost', '[::1]']
const digest = (text: string): Buffer => createHash('sha256').update(text).digest()

const originFits = (origin: string | undefined, host: string | undefined): boolean =>
  origin === undefined || (URL.canParse(origin) && new URL(origin).host === host)

/** Whether a passphrase lets in: yes, no, or the ms that its address has to wait before it may try again. */
function doorkeeper(passphrase: string | null, slowed: Slowed) {
  const knows = (authorization: string): boolean => {
    const given = Buffer.from(authorization.replace(/^Basic /, ''), 'base64').toString('utf8')
    return timingSafeEqual(digest(given.slice(given.indexOf(':') + 1)), digest(passphrase ?? ''))
  }
  return (authorization: string | undefined, address: string): 'yes' | 'no' | number => {
    if (passphrase === null) return 'yes'
    // who asks without one has not guessed
    if (authorization === undefined) return 'no'
    const wait = slowed.waitMs(address)
    if (wait > 0) return wait
    if (knows(authorization)) {
      slowed.succeeded(address)
      return 'yes'
    }
    slowed.failed(address)
    return 'no'
  }
}

/**
 * Host and Origin must be ours, so that no page of the outside world can reach a server on loopback by a rebound name.
 * Beyond loopback a passphrase is asked for (HTTP Basic, any user name).
 */
export function makeGuard(hosts: readonly string[], passphrase: string | null, slowed = new Slowed()): Guard {
  const names = new Set([...LOOPBACK, ...hosts.map((name) => name.toLowerCase())])
  const ours = (authority: string | undefined): boolean =>
    authority !== undefined && names.has(authority.replace(/:\d+$/, '').toLowerCase())
  const admits = doorkeeper(passphrase, slowed)
  return {
    allows: (headers, address = '') =>
      ours(headers.host) &&
      originFits(headers.origin, headers.host) &&
      admits(headers.authorization, address) === 'yes',
    check: (request, response, next) => {
      const { host, origin, authorization } = request.headers
      if (!ours(host)) throw new Refusal(403, 'host-not-ours', `the host "${host ?? ''}" is not this server`)
      if (!originFits(origin, host))
        throw new Refusal(403, 'origin-not-ours', 'the page that asks is not of this server')
      const admitted = admits(authorization, request.socket.remoteAddress ?? '')
      if (admitted === 'yes') return next()
      if (admitted === 'no') {
        response.set('WWW-Authenticate', 'Basic realm="Vestibule", charset="UTF-8"')
        throw new Refusal(401, 'passphrase-needed', 'the passphrase is needed')
      }
      const seconds = Math.ceil(admitted / 1000)
      response.set('Retry-After', String(seconds))
      throw new Refusal(429, 'too-many-wrong', `too many wrong passphrases: wait ${seconds} s`)
    },
  }
}
