// npm test: installs what is missing, then format, lint, types, unit, reference, integration and end-to-end tests. Every step runs
// even when one before it failed; the last line is `N passed, N failed`. Plain Node, no dependency.
import { spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { ensureBrowser, ensureBuild, ensurePackages, fail, root } from './setup.mjs'

let passed = 0
let failed = 0

function check(name, args) {
  console.log(`\n== ${name}`)
  const r = spawnSync('npx', args, { cwd: root, stdio: 'inherit' })
  if (r.status === 0) passed++
  else failed++
}

/** Runs Vitest and adds its counts; a run that ends without a report counts as one failure. */
function tests(name, args) {
  console.log(`\n== ${name}`)
  const folder = mkdtempSync(join(tmpdir(), 'yoroi-report-'))
  const report = join(folder, 'report.json')
  spawnSync('npx', ['vitest', 'run', ...args, '--reporter=default', '--reporter=json', `--outputFile.json=${report}`], {
    cwd: root,
    stdio: 'inherit',
  })
  try {
    const r = JSON.parse(readFileSync(report, 'utf8'))
    passed += r.numPassedTests
    // a file that could not be run at all has no failed test of its own
    failed += Math.max(r.numFailedTests, r.numFailedTestSuites > 0 || !r.success ? 1 : 0)
    if (r.numTotalTests === 0) failed++
  } catch {
    failed++
  }
  rmSync(folder, { recursive: true, force: true })
}

try {
  ensurePackages()
  ensureBrowser()
  check('format', ['prettier', '--check', '--log-level', 'warn', '.'])
  check('lint', ['eslint', '.', '--max-warnings', '0'])
  check('types', ['vue-tsc', '--noEmit', '-p', 'tsconfig.json'])
  tests('unit, reference and integration tests', [])
  ensureBuild()
  tests('end-to-end tests', ['--config', 'vitest.e2e.config.ts'])
  console.log(`\n${passed} passed, ${failed} failed`)
  process.exit(failed === 0 && passed > 0 ? 0 : 1)
} catch (e) {
  fail(e)
}
