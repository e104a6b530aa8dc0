// Starts and stops the server.
import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { pino } from 'pino'
import type { Config } from './config.ts'
import { createApp, type Served } from './create-app.ts'
import { openDatabase } from './data-source.ts'

export interface Running extends Served {
  readonly url: string
  readonly port: number
  /** Stops taking requests, lets what runs finish, closes the database. */
  stop(): Promise<void>
}

/** Error with a sentence when the port is taken or the data folder cannot be written. */
export async function startServer(config: Config): Promise<Running> {
  const log = pino({ level: config.logLevel })
  const source = await openDatabase(config.dataDir)
  let port = config.port
  const served = createApp(source, config, log, () => port)
  const server = createServer(served.app)
  try {
    await listen(server, config)
  } catch (e) {
    await source.destroy()
    throw e
  }
  port = (server.address() as AddressInfo).port
  const stop = async (): Promise<void> => {
    const closed = new Promise<void>((r) => server.close(() => r()))
    server.closeIdleConnections()
    setTimeout(() => server.closeAllConnections(), 3000).unref()
    await closed
    await served.writer.idle()
    await source.destroy()
  }
  return { ...served, url: `http://${config.host}:${port}`, port, stop }
}

function listen(server: Server, config: Config): Promise<void> {
  return new Promise((resolve, reject) => {
    server.once('error', (e: NodeJS.ErrnoException) => {
      const why =
        e.code === 'EADDRINUSE'
          ? `Port ${config.port} is already in use. Is Yoroi running in another window? Choose another port with --port.`
          : `The server could not listen on ${config.host}:${config.port} (${e.code ?? e.message}).`
      reject(new Error(why, { cause: e }))
    })
    server.listen(config.port, config.host, resolve)
  })
}
