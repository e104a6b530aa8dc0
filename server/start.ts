// Starts and stops the server.
// Model: one data folder has one owner. The folder is taken, then the database opened, then the port; only when all three are held
// is anything cleared away, and only then is the first request answered.

import { createServer, type Server } from 'node:http'
import type { AddressInfo, Socket } from 'node:net'
import { pino, type Logger } from 'pino'
import type { Config } from './config.ts'
import { createApp, type Served } from './create-app.ts'
import { holdFolder } from './storage/lock.ts'
import { openStore, type Prepare, type Store } from './storage/open.ts'
import { KEPT_DAYS, megabytes, sweep } from './storage/sweep.ts'

export interface Running extends Served {
  readonly url: string
  readonly port: number
  /** Stops taking requests, lets what runs finish, closes the database. */
  stop(): Promise<void>
}
const DAY_MS = 24 * 3600_000

/** Error with a sentence when the port is taken, the data folder is in use or the data file cannot be used. */
export async function startServer(config: Config, prepare?: Prepare): Promise<Running> {
  const log = pino({ level: config.logLevel })
  const lock = holdFolder(config.dataDir)
  let store: Store | null = null
  const server = createServer()
  try {
    store = await openStore(config.dataDir, prepare)
    let port = config.port
    const served = createApp(store, config, log, () => port)
    let begin: () => void = () => undefined
    const cleared = new Promise<void>((resolve) => (begin = resolve))
    server.on('request', (req, res) => void cleared.then(() => served.app(req, res)))
    server.on('clientError', (_e, socket) => badRequest(socket as Socket))
    await listen(server, config)
    port = (server.address() as AddressInfo).port
    await served.assets.clearUnfinished()
    begin()
    const url = `http://${config.host}:${port}`
    lock.tell(url)
    const stopSweeping = sweepDaily(store, log)
    const { writer } = store
    const closeStore = store.close
    const stop = async (): Promise<void> => {
      const closed = new Promise<void>((r) => server.close(() => r()))
      // streams go on for ever by themselves
      served.projects.changes.end()
      server.closeIdleConnections()
      setTimeout(() => server.closeAllConnections(), 3000).unref()
      await closed
      await stopSweeping()
      await writer.idle()
      await closeStore()
      lock.release()
    }
    return { ...served, url, port, stop }
  } catch (e) {
    server.close()
    await store?.close().catch(() => undefined)
    lock.release()
    throw e
  }
}

/** A sweep now and once a day; what went is told in the log. Stopping waits for a running one. */
function sweepDaily(store: Store, log: Logger): () => Promise<void> {
  let running: Promise<void> = Promise.resolve()
  let stopped = false
  const once = (): void => {
    if (stopped) return
    running = sweep(store.reader, store.writer).then(
      ({ gone, waiting }) => {
        if (gone.length + waiting.length === 0) return
        const bytes = gone.reduce((n, a) => n + a.sizeBytes, 0)
        log.info({ files: gone.map((a) => a.fileName), bytes, waiting: waiting.length }, 'swept')
        if (gone.length > 0)
          log.warn(`${gone.length} files that nothing referred to for ${KEPT_DAYS} days are gone: ${megabytes(bytes)}.`)
      },
      (e: unknown) => log.error(e, 'the sweep failed'),
    )
  }
  const first = setTimeout(once, 0)
  const daily = setInterval(once, DAY_MS)
  daily.unref()
  return () => {
    stopped = true
    clearTimeout(first)
    clearInterval(daily)
    return running
  }
}

/** What is no HTTP at all is answered too, with the headers that every answer carries. */
function badRequest(socket: Socket): void {
  if (!socket.writable) return
  const headers = [
    "Content-Security-Policy: default-src 'none'",
    'X-Content-Type-Options: nosniff',
    'Connection: close',
  ]
  socket.end(`HTTP/1.1 400 Bad Request\r\n${headers.join('\r\n')}\r\nContent-Length: 0\r\n\r\n`)
}

function listen(server: Server, config: Config): Promise<void> {
  return new Promise((resolve, reject) => {
    server.once('error', (e: NodeJS.ErrnoException) => {
      const why =
        e.code === 'EADDRINUSE'
          ? `Port ${config.port} is already in use. Is Yoroi running in another window? Choose another port with --port.`
          : e.code === 'EACCES'
            ? `Port ${config.port} may not be used by this user. Choose one above 1023 with --port.`
            : `The server could not listen on ${config.host}:${config.port} (${e.code ?? e.message}).`
      reject(new Error(why, { cause: e }))
    })
    server.listen(config.port, config.host, resolve)
  })
}
