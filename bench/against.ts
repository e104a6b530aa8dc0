// npx tsx bench/against.ts REVISION SCRIPT [ROUNDS]: the same measurement (bench/once) on an earlier commit and on this checkout, in
// turns, medians of the rounds and their ratio. The earlier commit gets a worktree of its own that uses these packages.
import { execFileSync } from 'node:child_process'
import { cpSync, mkdirSync, mkdtempSync, rmSync, symlinkSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { basename, join, resolve } from 'node:path'
import { median } from './harness.ts'

const [revision, script, rounds = '9'] = process.argv.slice(2)
if (!revision || !script) throw new Error('Name a revision and a script of bench/once.')
const folder = join(mkdtempSync(join(tmpdir(), 'yoroi-against-')), 'old')
execFileSync('git', ['worktree', 'add', '--detach', folder, revision], { stdio: 'ignore' })
try {
  symlinkSync(resolve('node_modules'), join(folder, 'node_modules'))
  mkdirSync(join(folder, 'bench/once'), { recursive: true })
  cpSync(script, join(folder, 'bench/once', basename(script)))
  const once = (cwd: string): number => {
    const out = execFileSync('npx', ['tsx', join('bench/once', basename(script))], { cwd, encoding: 'utf8' })
    return Number(out.trim().split('\n').at(-1))
  }
  const [old, now]: [number[], number[]] = [[], []]
  for (let i = 0; i < Number(rounds); i++) {
    old.push(once(folder))
    now.push(once('.'))
    console.log(`round ${i + 1}: ${old.at(-1)!.toFixed(2)} before, ${now.at(-1)!.toFixed(2)} now`)
  }
  console.log(`median ${median(old).toFixed(2)} before, ${median(now).toFixed(2)} now: ${(median(now) / median(old)).toFixed(3)}`) // prettier-ignore
} finally {
  execFileSync('git', ['worktree', 'remove', '--force', folder])
  rmSync(join(folder, '..'), { recursive: true, force: true })
}
