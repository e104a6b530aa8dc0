// The server with the demo in it: a new data folder gets the demo projects, an old one is left as it is.
import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { readConfig, startServer } from '#server'
import { seedDemo } from './demo-data/seed.ts'

try {
  const config = readConfig(process.argv.slice(2), process.env)
  const fresh = !existsSync(join(config.dataDir, 'yoroi.sqlite'))
  const server = await startServer(config)
  if (fresh) {
    console.log('Making the demo (hall and lamp, about 300,000 triangles)…')
    await seedDemo(server)
  } else console.log(`Keeping what is in ${config.dataDir}.`)
  console.log(`Yoroi is at ${server.url}  (Ctrl+C stops it)`)
  let stopping = false
  for (const signal of ['SIGINT', 'SIGTERM'] as const)
    process.on(signal, () => {
      if (stopping) process.exit(1)
      stopping = true
      void server.stop().then(() => process.exit(0))
    })
} catch (e) {
  console.error(e instanceof Error ? e.message : e)
  process.exit(1)
}
