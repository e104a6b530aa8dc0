// The server as a program: settings, start, a clean stop on Ctrl+C or SIGTERM.
import { readConfig } from './config.ts'
import { startServer } from './start.ts'

try {
  const running = await startServer(readConfig(process.argv.slice(2), process.env))
  console.log(`Yoroi is at ${running.url}`)
  let stopping = false
  for (const signal of ['SIGINT', 'SIGTERM'] as const)
    process.on(signal, () => {
      if (stopping) process.exit(1)
      stopping = true
      void running.stop().then(() => process.exit(0))
    })
} catch (e) {
  console.error(e instanceof Error ? e.message : e)
  process.exit(1)
}
