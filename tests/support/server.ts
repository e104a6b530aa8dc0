// A real server on a real database file in a folder of its own, for tests.
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { configSchema, startServer, type Config, type Running } from '#server'

export interface TestServer extends Running {
  readonly dataDir: string
  /** Stops the server and removes its folder. */
  end(): Promise<void>
}

export async function testServer(changes: Partial<Config> = {}): Promise<TestServer> {
  const dataDir = changes.dataDir ?? mkdtempSync(join(tmpdir(), 'yoroi-test-'))
  const running = await startServer(configSchema.parse({ port: 0, logLevel: 'silent', ...changes, dataDir }))
  return {
    ...running,
    dataDir,
    end: async () => {
      await running.stop()
      rmSync(dataDir, { recursive: true, force: true })
    },
  }
}
