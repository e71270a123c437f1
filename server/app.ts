import express, { type ErrorRequestHandler, type Express } from 'express'
import helmet from 'helmet'
import { existsSync } from 'node:fs'
import { join } from 'node:path'
import type { Logger } from 'pino'
import { openApiDocument } from '../core/api'
import type { Context } from './context'
import type { Guard } from './guard'
import { healthOf } from './health'
import { Refusal, storeTrouble } from './refusal'
import { boardRoutes } from './routes/boards'
import { buildRoutes } from './routes/builds'
import { mount, serve, type Served } from './routes/serve'
import { credentialRoutes } from './routes/credentials'
import { doorRoutes } from './routes/door'
import { houseRoutes } from './routes/house'
import { logbookRoutes } from './routes/logbook'
import { siteRoutes } from './routes/sites'
import { upkeepRoutes } from './routes/upkeep'
import { isTooDeep } from './shallow'

/** Largest request body: an edit is far smaller, a whole site at most 4 MiB. */
const LARGEST_BODY = '5mb'

function shallow(_request: unknown, _response: unknown, body: Buffer): void {
  if (isTooDeep(body)) throw new Error('too deep')
}

/** All that is served. Each route of the contract has exactly one. */
export const allRoutes = (context: Context): Served[] => [
  serve('health', () => healthOf(context)),
  serve('openApi', () => openApiDocument() as { openapi: string }),
  ...siteRoutes(context),
  ...doorRoutes(context),
  ...buildRoutes(context),
  ...logbookRoutes(context),
  ...boardRoutes(context),
  ...upkeepRoutes(context),
  ...houseRoutes(context),
  ...credentialRoutes(context),
]

export function makeApp(context: Context, guard: Guard, webFolder: string, logger: Logger): Express {
  const app = express()
  app.disable('x-powered-by')
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          defaultSrc: ["'self'"],
          scriptSrc: ["'self'"],
          styleSrc: ["'self'", "'unsafe-inline'"],
          imgSrc: ["'self'", 'data:'],
          connectSrc: ["'self'", 'ws:', 'wss:'],
          workerSrc: ["'self'", 'blob:'],
          upgradeInsecureRequests: null,
        },
      },
      strictTransportSecurity: false,
    }),
  )
  app.use(guard.check)
  app.use('/api', express.json({ limit: LARGEST_BODY, strict: true, verify: shallow }))
  const router = express.Router()
  mount(router, allRoutes(context))
  app.use(router)
  app.use('/api', (request) => {
    throw new Refusal(404, 'not-found', `there is no ${request.method} ${request.originalUrl}`)
  })
  app.use(express.static(webFolder, { index: false, maxAge: '1y', immutable: true, fallthrough: true }))
  app.get(/.*/, (_request, response) => {
    const page = join(webFolder, 'index.html')
    if (!existsSync(page))
      throw new Refusal(503, 'not-built', 'the pages are not built: run "npm start" or "npm run build"')
    response.set('Cache-Control', 'no-cache').sendFile(page)
  })
  app.use(errorsAsLines(logger))
  return app
}

/** Every error leaves as JSON with one clear line; what is our own mistake is logged, and said to be so. */
function errorsAsLines(logger: Logger): ErrorRequestHandler {
  return (error: unknown, request, response, next) => {
    if (response.headersSent) return next(error)
    const known = error instanceof Refusal ? error : (storeTrouble(error) ?? fromExpress(error))
    // pino writes an error out only under this name
    if (!known) logger.error({ err: error, path: request.path }, 'a request failed')
    const refusal = known ?? new Refusal(500, 'our-mistake', 'something failed in the server; its log says what')
    response.status(refusal.status).json({ error: { code: refusal.code, message: refusal.message } })
  }
}

function fromExpress(error: unknown): Refusal | undefined {
  const { type, status } = error as { type?: string; status?: number }
  if (type === 'entity.too.large') return new Refusal(413, 'too-large', 'the request is larger than 5 MB')
  if (type === 'entity.verify.failed')
    return new Refusal(400, 'too-deep', 'the body is nested deeper than any document')
  if (type === 'entity.parse.failed') return new Refusal(400, 'not-json', 'the body is not JSON')
  if (status && status >= 400 && status < 500) return new Refusal(status, 'bad-request', 'the request cannot be read')
  return undefined
}
