// npx tsx bench/kills.ts [COUNT] [SEED]: kills the server at random moments of saves and uploads (300 times by default) and tells
// what of all that was acknowledged is not there.
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { runKills } from '../tests/support/kills.ts'

const dataDir = mkdtempSync(join(tmpdir(), 'yoroi-kills-'))
const r = await runKills(dataDir, Number(process.argv[2] ?? 300), Number(process.argv[3] ?? 300))
rmSync(dataDir, { recursive: true })
for (const line of r.lost) console.log(line)
console.log(`${r.kills} kills, ${r.saves} saves and ${r.uploads} uploads acknowledged, ${r.lost.length} lost`)
process.exitCode = r.lost.length > 0 ? 1 : 0
