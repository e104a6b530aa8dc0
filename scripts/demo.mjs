// npm run demo: installs what is missing, builds, and serves Yoroi with its demo on 127.0.0.1.
//   npm run demo -- --port 4780 --data data      (or YOROI_PORT, YOROI_DATA)
import { spawn } from 'node:child_process'
import { ensureBuild, ensurePackages, fail, root } from './setup.mjs'

try {
  ensurePackages()
  ensureBuild()
  const args = ['--import', 'tsx', 'scripts/serve-demo.ts', '--static', 'dist', ...process.argv.slice(2)]
  const server = spawn(process.execPath, args, { cwd: root, stdio: 'inherit' })
  for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal))
  server.on('exit', (code) => process.exit(code ?? 0))
} catch (e) {
  fail(e)
}
