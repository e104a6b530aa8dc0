import { existsSync, readFileSync, renameSync, writeFileSync, unlinkSync } from 'node:fs'
import * as B from '../../tests/support/browser.ts'
const stand = await B.openStand({ demo: true })
const page = await stand.page({ samples: 8 })
const S = { stand, page, ...B, url: stand.server.url, shot: async (n) => { await page.screenshot({ path: `/tmp/shots/${n}.png` }); return n } }
const A = Object.getPrototypeOf(async function () {}).constructor
writeFileSync('/tmp/w/ready', stand.server.url)
for (;;) {
  if (existsSync('/tmp/w/cmd.js')) {
    const code = readFileSync('/tmp/w/cmd.js', 'utf8'); unlinkSync('/tmp/w/cmd.js')
    if (code.trim() === 'quit') break
    let out
    const n0 = stand.errors.length
    try { const log=[]; const r = await new A(...Object.keys(S), 'log', code)(...Object.values(S), (...x)=>log.push(x.map(y=>typeof y==='string'?y:JSON.stringify(y)).join(' '))); out = log.join('\n') + (r===undefined?'':'\n=> ' + (typeof r === 'string' ? r : JSON.stringify(r, null, 1))) } catch (e) { out = 'ERR ' + (e.stack ?? e) }
    if (stand.errors.length>n0) out += '\nPAGE ERRORS ' + stand.errors.slice(n0).join(' | ')
    writeFileSync('/tmp/w/out.tmp', out); renameSync('/tmp/w/out.tmp', '/tmp/w/out')
  }
  await new Promise((r) => setTimeout(r, 100))
}
await stand.end(); process.exit(0)
