// npm run dev: the server with the demo, and Vite's development server in front of it.
import { spawn } from 'node:child_process'
import { ensurePackages, fail, root } from './setup.mjs'

try {
  ensurePackages()
  const env = {
    ...process.env,
    YOROI_EXTRA_ORIGINS: 'http://127.0.0.1:4781,http://localhost:4781',
    YOROI_DATA: process.env.YOROI_DATA ?? 'data/dev',
  }
  const children = [
    spawn(process.execPath, ['--import', 'tsx', '--watch-path=server', '--watch-path=model', 'scripts/serve-demo.ts'], {
      cwd: root,
      stdio: 'inherit',
      env,
    }),
    spawn('npx', ['vite'], { cwd: root, stdio: 'inherit', env }),
  ]
  const stop = () => children.forEach((c) => c.kill('SIGTERM'))
  for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, stop)
  for (const c of children) c.on('exit', stop)
} catch (e) {
  fail(e)
}
