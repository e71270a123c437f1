import { createHash, timingSafeEqual } from 'node:crypto'
import type { RequestHandler } from 'express'
import { Refusal } from './refusal'

export interface Guard {
  /** Middleware for requests. */
  readonly check: RequestHandler
  /** The same rule for a WebSocket upgrade. */
  readonly allows: (headers: { host?: string; origin?: string; authorization?: string }) => boolean
}

const LOOPBACK = ['127.0.0.1', 'localhost', '[::1]']
const digest = (text: string): Buffer => createHash('sha256').update(text).digest()

/**
 * Host and Origin must be ours, so that no page of the outside world can reach a server on loopback by a rebound name.
 * Beyond loopback a passphrase is asked for (HTTP Basic, any user name).
 */
export function makeGuard(hosts: readonly string[], passphrase: string | null): Guard {
  const names = new Set([...LOOPBACK, ...hosts])
  const ours = (authority: string | undefined): boolean =>
    authority !== undefined && names.has(authority.replace(/:\d+$/, ''))
  const originFits = (origin: string | undefined, host: string | undefined): boolean => {
    if (origin === undefined) return true
    try {
      return new URL(origin).host === host
    } catch {
      return false
    }
  }
  const knows = (authorization: string | undefined): boolean => {
    if (passphrase === null) return true
    const given = Buffer.from(authorization?.replace(/^Basic /, '') ?? '', 'base64').toString('utf8')
    return timingSafeEqual(digest(given.slice(given.indexOf(':') + 1)), digest(passphrase))
  }
  return {
    allows: (headers) => ours(headers.host) && originFits(headers.origin, headers.host) && knows(headers.authorization),
    check: (request, response, next) => {
      if (!ours(request.headers.host))
        throw new Refusal(403, 'host-not-ours', `the host "${request.headers.host ?? ''}" is not this server`)
      if (!originFits(request.headers.origin, request.headers.host))
        throw new Refusal(403, 'origin-not-ours', 'the page that asks is not of this server')
      if (!knows(request.headers.authorization)) {
        response.set('WWW-Authenticate', 'Basic realm="Vestibule", charset="UTF-8"')
        throw new Refusal(401, 'passphrase-needed', 'the passphrase is needed')
      }
      next()
    },
  }
}
