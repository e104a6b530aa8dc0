// What demo, dev and test need before they can run: packages, a build, a browser. Plain Node, no dependency.
import { spawnSync } from 'node:child_process'
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import { createHash } from 'node:crypto'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'

export const root = fileURLToPath(new URL('..', import.meta.url))

export class SetupError extends Error {}

/** Runs a command with its output shown; SetupError with a sentence when it fails. */
export function run(command, args, why, options = {}) {
  const r = spawnSync(command, args, { cwd: root, stdio: 'inherit', ...options })
  if (r.error?.code === 'ENOENT') throw new SetupError(`${why} needs “${command}”, which is not on this machine.`)
  if (r.status !== 0)
    throw new SetupError(`${why} failed (${[command, ...args].join(' ')} ended with ${r.status ?? r.signal}).`)
}

const hashOf = (path) => createHash('sha256').update(readFileSync(path)).digest('hex')

/** Installs the packages when they are missing or the lock file is another one. */
export function ensurePackages() {
  const major = Number(process.versions.node.split('.')[0])
  if (major < 20) throw new SetupError(`Yoroi needs Node 20 or newer; this is ${process.version}.`)
  const stamp = join(root, 'node_modules', '.yoroi-lock')
  const lock = hashOf(join(root, 'package-lock.json'))
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return
  console.log('Installing packages (a few minutes the first time)…')
  run('npm', ['ci', '--no-audit', '--no-fund'], 'Installing packages', { env: { ...process.env, JOBS: 'max' } })
  writeFileSync(stamp, lock)
}

function newest(path) {
  const s = statSync(path)
  if (!s.isDirectory()) return s.mtimeMs
  return Math.max(s.mtimeMs, ...readdirSync(path).map((f) => newest(join(path, f))))
}
const BUILT_FROM = [
  'app',
  'core',
  'formats',
  'mesh',
  'model',
  'stage',
  'workers',
  'public',
  'index.html',
  'package.json',
  'vite.config.ts',
]

/** Builds the page when a source is newer than the last build. */
export function ensureBuild() {
  const built = join(root, 'dist', 'index.html')
  if (existsSync(built) && statSync(built).mtimeMs > Math.max(...BUILT_FROM.map((p) => newest(join(root, p))))) return
  console.log('Building the page…')
  run('npx', ['vite', 'build', '--logLevel', 'warn'], 'Building the page')
}

export const CHROMIUM = process.env.YOROI_CHROMIUM ?? '/usr/bin/chromium'

/** Installs Debian's Chromium when no browser is there. */
export function ensureBrowser() {
  if (existsSync(CHROMIUM)) return
  if (spawnSync('apt-get', ['--version']).status !== 0)
    throw new SetupError(
      'The end-to-end tests need Chromium. Install it and set YOROI_CHROMIUM to its path; apt-get is not on this machine.',
    )
  console.log('Installing Chromium…')
  const sudo = process.getuid?.() === 0 ? [] : ['sudo']
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' }
  const apt = (...args) => {
    const [command, ...rest] = [...sudo, 'apt-get', ...args]
    run(command, rest, 'Installing Chromium', { env })
  }
  apt('update', '-q')
  apt('install', '-y', '-q', '--no-install-recommends', 'chromium')
}

/** Ends the program with the sentence of a SetupError, or with the error itself. */
export function fail(e) {
  console.error(e instanceof SetupError ? `\n${e.message}` : e)
  process.exit(1)
}
