// The Express application over an open database.
import { randomBytes } from 'node:crypto'
import { existsSync, readFileSync } from 'node:fs'
import { join, resolve } from 'node:path'
import express, { type Express, type RequestHandler, type Response } from 'express'
import helmet from 'helmet'
import type { Logger } from 'pino'
import { AppError } from '#core/base'
import { Assets } from './assets.ts'
import type { Config } from './config.ts'
import { errorWriter, ownHostOnly } from './http/guards.ts'
import { Projects } from './projects.ts'
import { assetRoutes } from './routes/assets.ts'
import { changeRoutes } from './routes/changes.ts'
import { projectRoutes } from './routes/projects.ts'
import type { Store } from './storage/open.ts'

export interface Served {
  readonly app: Express
  readonly projects: Projects
  readonly assets: Assets
  readonly store: Store
}

/** `port` tells the port really listened on (it may be chosen by the system). */
export function createApp(store: Store, config: Config, log: Logger, port: () => number): Served {
  const projects = new Projects(store.reader, store.writer)
  const assets = new Assets(store.reader, store.writer, config.uploadLimitBytes)
  const app = express()
  app.disable('x-powered-by')
  app.use(securityHeaders())
  app.use(ownHostOnly(port, config.extraOrigins))
  const api = express.Router()
  api.use((_req, res, next) => {
    res.set('Cache-Control', 'no-store')
    next()
  })
  api.get('/health', (_req, res) => void res.json({ ok: true, uploadLimitBytes: config.uploadLimitBytes }))
  api.use(projectRoutes(projects, config.documentLimitBytes))
  api.use(assetRoutes(assets))
  api.use(changeRoutes(projects, projects.changes))
  api.use(() => {
    throw new AppError('not-found')
  })
  app.use('/api', api)
  const staticDir = config.staticDir ? resolve(config.staticDir) : null
  if (staticDir && existsSync(join(staticDir, 'index.html'))) app.use(page(staticDir))
  app.use(() => {
    throw new AppError('not-found')
  })
  app.use(errorWriter(log))
  return { app, projects, assets, store }
}

/** The page's own address is all it may load from; styles it makes at run time carry the nonce of the answer that brought it. */
function securityHeaders(): RequestHandler {
  const headers = helmet({
    contentSecurityPolicy: {
      directives: {
        defaultSrc: ["'self'"],
        scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
        styleSrc: ["'self'", (_req, res) => `'nonce-${nonceOf(res as Response)}'`],
        fontSrc: ["'self'"],
        imgSrc: ["'self'", 'data:', 'blob:'],
        connectSrc: ["'self'", 'blob:'],
        workerSrc: ["'self'", 'blob:'],
        // the server speaks plain HTTP on this machine only
        upgradeInsecureRequests: null,
      },
    },
    crossOriginEmbedderPolicy: { policy: 'require-corp' },
    strictTransportSecurity: false,
  })
  return (req, res, next) => {
    res.locals['nonce'] = randomBytes(16).toString('base64')
    headers(req, res, next)
  }
}
const nonceOf = (res: Response): string => String(res.locals['nonce'])
/** Stands in the built page where the nonce goes (vite.config.ts). */
const NONCE_MARK = 'YOROI_NONCE'

/** The built page: its files, and for every address of its own the same document. */
function page(staticDir: string): express.Router {
  const router = express.Router()
  const html = readFileSync(join(staticDir, 'index.html'), 'utf8')
  const start: RequestHandler = (_req, res) =>
    void res
      .set('Cache-Control', 'no-store')
      .type('html')
      .send(html.replaceAll(NONCE_MARK, nonceOf(res)))
  const files = { fallthrough: true, index: false, redirect: false } as const
  router.get(['/', '/index.html'], start)
  router.use('/assets', express.static(join(staticDir, 'assets'), { ...files, immutable: true, maxAge: '1y' }))
  router.use(express.static(staticDir, { ...files, maxAge: 0 }))
  router.get('/{*path}', (req, res, next) => {
    if (!req.accepts('html') || req.path.startsWith('/assets/')) next(new AppError('not-found'))
    else start(req, res, next)
  })
  return router
}
