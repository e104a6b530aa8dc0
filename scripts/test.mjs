// npm test: installs what is missing, then format, lint and types, then unit, reference, integration and end-to-end tests. Every step runs
// even when one before it failed; the last line is `N passed, N failed`. Plain Node, no dependency.
import { spawn, spawnSync } from 'node:child_process'
import { once } from 'node:events'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, relative } from 'node:path'
import { ensureBrowser, ensureBuild, ensurePackages, fail, root } from './setup.mjs'

let passed = 0
let failed = 0
/** What failed, by name: repeated at the end, where it is still seen when the middle of a long output is cut. */
const failures = []

/** Side by side; what one prints stays together. */
async function checks(commands) {
  const ended = Object.entries(commands).map(async ([name, args]) => {
    const child = spawn('npx', args, { cwd: root, stdio: ['ignore', 'pipe', 'pipe'] })
    const printed = []
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (part) => printed.push(part))
    const [status] = await once(child, 'close')
    console.log(`\n== ${name}\n${Buffer.concat(printed)}`)
    if (status === 0) passed++
    else {
      failed++
      failures.push(name)
    }
  })
  await Promise.all(ended)
}

/** @returns {string[]} File, test and the beginning of the message of each failure in a report of Vitest's. */
function failedIn(report) {
  return report.testResults.flatMap((file) => {
    const path = relative(root, file.name)
    const tests = file.assertionResults.filter((t) => t.status === 'failed')
    if (file.status === 'failed' && tests.length === 0) return [`${path}\n${shortened(file.message)}`]
    return tests.map((t) => `${path} > ${t.fullName}\n${shortened(t.failureMessages.join('\n'))}`)
  })
}

const shortened = (message) => message.split('\n').slice(0, 12).map((line) => `    ${line.slice(0, 300)}`).join('\n') // prettier-ignore

/** @returns {object | null} Vitest's report; null where it ended without one. */
function reportOf(name, args) {
  console.log(`\n== ${name}`)
  const folder = mkdtempSync(join(tmpdir(), 'yoroi-report-'))
  const report = join(folder, 'report.json')
  spawnSync('npx', ['vitest', 'run', ...args, '--reporter=default', '--reporter=json', `--outputFile.json=${report}`], {
    cwd: root,
    stdio: 'inherit',
  })
  try {
    return JSON.parse(readFileSync(report, 'utf8'))
  } catch {
    return null
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}

/** Runs Vitest and adds its counts; a run that ends without a report counts as one failure. */
function tests(name, args) {
  count(name, reportOf(name, args))
}
function count(name, r) {
  if (!r) {
    failed++
    failures.push(`${name}: no report`)
    return
  }
  passed += r.numPassedTests
  // a file that could not be run at all has no failed test of its own
  failed += Math.max(r.numFailedTests, r.numFailedTestSuites > 0 || !r.success ? 1 : 0)
  if (r.numTotalTests === 0) failed++
  failures.push(...failedIn(r))
}

const END_TO_END = ['--config', 'vitest.e2e.config.ts']
/** They measure what a fraction of a second shows: nothing runs beside them. */
const ALONE = ['picture', 'moving', 'live', 'lens']
/**
 * The real interface, two files at a time: each waits for the page half of its time. A file that fails beside another one runs again by itself, and
 * what it says then counts.
 */
function endToEnd() {
  const without = ALONE.flatMap((f) => ['--exclude', `tests/e2e/${f}.test.ts`])
  const name = 'end-to-end tests, two files at a time'
  const r = reportOf(name, [...END_TO_END, '--fileParallelism', '--maxWorkers=2', '--bail=0', ...without])
  const isSound = (f) => f.status === 'passed'
  const again = r?.testResults.filter((f) => !isSound(f)).map((f) => relative(root, f.name)) ?? []
  if (!r || r.testResults.length === 0) count(name, r)
  else {
    passed += r.testResults.filter(isSound).flatMap((f) => f.assertionResults).filter((t) => t.status === 'passed').length // prettier-ignore
    if (again.length > 0) {
      console.log(`\n== failed beside others, run again alone\n${failedIn(r).join('\n')}`)
      tests('the same files alone', [...END_TO_END, '--bail=0', ...again])
    }
  }
  tests('end-to-end tests that measure time', [...END_TO_END, ...ALONE.map((f) => `tests/e2e/${f}.test.ts`)])
}

try {
  ensurePackages()
  ensureBrowser()
  await checks({
    format: ['prettier', '--check', '--log-level', 'warn', '.'],
    lint: ['eslint', '.', '--max-warnings', '0'],
    types: ['vue-tsc', '--noEmit', '-p', 'tsconfig.json'],
  })
  tests('unit, reference and integration tests', [])
  ensureBuild()
  endToEnd()
  if (failures.length > 0) console.log(`\n== failed\n${failures.join('\n')}`)
  console.log(`\n${passed} passed, ${failed} failed`)
  process.exit(failed === 0 && passed > 0 ? 0 : 1)
} catch (e) {
  fail(e)
}
