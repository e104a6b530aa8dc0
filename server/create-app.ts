// The Express application over an open database.
import { existsSync } from 'node:fs'
import { join, resolve } from 'node:path'
import express, { type Express } from 'express'
import helmet from 'helmet'
import type { Logger } from 'pino'
import type { DataSource } from 'typeorm'
import { AppError } from '#core/base'
import { Assets } from './assets.ts'
import type { Config } from './config.ts'
import { Writer } from './data-source.ts'
import { errorWriter, ownHostOnly } from './http/guards.ts'
import { Projects } from './projects.ts'
import { assetRoutes } from './routes/assets.ts'
import { projectRoutes } from './routes/projects.ts'

export interface Served {
  readonly app: Express
  readonly projects: Projects
  readonly assets: Assets
  readonly writer: Writer
}

/** `port` tells the port really listened on (it may be chosen by the system). */
export function createApp(source: DataSource, config: Config, log: Logger, port: () => number): Served {
  const writer = new Writer(source)
  const projects = new Projects(source, writer)
  const assets = new Assets(source, writer, config.uploadLimitBytes)
  const app = express()
  app.disable('x-powered-by')
  app.use(ownHostOnly(port, config.extraOrigins))
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          defaultSrc: ["'self'"],
          scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
          styleSrc: ["'self'", "'unsafe-inline'"],
          imgSrc: ["'self'", 'data:', 'blob:'],
          connectSrc: ["'self'", 'blob:'],
          workerSrc: ["'self'", 'blob:'],
          // the server speaks plain HTTP on this machine only
          upgradeInsecureRequests: null,
        },
      },
      crossOriginEmbedderPolicy: { policy: 'require-corp' },
      strictTransportSecurity: false,
    }),
  )
  const api = express.Router()
  api.use((_req, res, next) => {
    res.set('Cache-Control', 'no-store')
    next()
  })
  api.get('/health', (_req, res) => void res.json({ ok: true, uploadLimitBytes: config.uploadLimitBytes }))
  api.use(projectRoutes(projects, config.documentLimitBytes))
  api.use(assetRoutes(assets))
  api.use(() => {
    throw new AppError('not-found')
  })
  app.use('/api', api)
  const staticDir = config.staticDir ? resolve(config.staticDir) : null
  if (staticDir && existsSync(join(staticDir, 'index.html'))) {
    app.use(
      '/assets',
      express.static(join(staticDir, 'assets'), { immutable: true, maxAge: '1y', index: false, fallthrough: true }),
    )
    app.use(express.static(staticDir, { index: 'index.html', maxAge: 0 }))
    app.get('/{*path}', (req, res, next) => {
      if (!req.accepts('html') || req.path.startsWith('/assets/')) next(new AppError('not-found'))
      else res.sendFile(join(staticDir, 'index.html'))
    })
  }
  app.use(() => {
    throw new AppError('not-found')
  })
  app.use(errorWriter(log))
  return { app, projects, assets, writer }
}
