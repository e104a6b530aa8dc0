// Kills a server at random moments of saves and uploads and looks whether anything that it had acknowledged is gone.
import { createHash, randomUUID } from 'node:crypto'
import { setTimeout as sleep } from 'node:timers/promises'
import Sqlite from 'better-sqlite3'
import { seededRandom } from '#core/base'
import { aimAt, newProject, type ProjectDocument } from '#model'
import { databaseFile } from '../../server/storage/open.ts'
import { startProgram } from './program.ts'
import { roomGlb } from './models.ts'

export interface Kills {
  readonly kills: number
  readonly saves: number
  readonly uploads: number
  /** What was acknowledged and is not there, or not as it was; empty when all is well. */
  readonly lost: readonly string[]
}
const doc = (name: string): ProjectDocument =>
  newProject({ name, subject: 'room', stand: aimAt([1, 2, 1.58], [5, 2, 1.58]), models: [] })

/** A GLB with a part at its end that no reader looks at, so that every upload is another file of about a megabyte and a half. */
function someGlb(n: number): Buffer {
  const glb = Buffer.from(roomGlb())
  return Buffer.concat([glb, Buffer.alloc(1_500_000, n % 251), Buffer.from(String(n))])
}
const sha = (b: Uint8Array): string => createHash('sha256').update(b).digest('hex')

/** `count` kills on one folder, in a row; the moments come from the seed. */
export async function runKills(dataDir: string, count: number, seed: number): Promise<Kills> {
  const random = seededRandom(seed)
  const lost: string[] = []
  const files = new Map<string, number>()
  let saves = 0
  let project = ''
  let acknowledged = 0
  let text = ''
  for (let k = 0; k <= count; k++) {
    const server = await startProgram(dataDir)
    const json = (method: string, path: string, body: unknown): Promise<Response> =>
      fetch(server.url + path, { method, headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) })
    if (!project) {
      const made = (await (await json('POST', '/api/projects', { document: doc('revision 1') })).json()) as {
        id: string
      }
      project = made.id
      acknowledged = 1
      text = 'revision 1'
    } else {
      const now = (await (await fetch(`${server.url}/api/projects/${project}`)).json()) as {
        revision: number
        document: ProjectDocument
      }
      // the save under way may have reached the disk without its answer reaching us
      if (now.revision < acknowledged || (now.revision === acknowledged && now.document.name !== text))
        lost.push(`kill ${k}: revision ${acknowledged} (“${text}”) is now ${now.revision} (“${now.document.name}”)`)
      acknowledged = now.revision
      text = now.document.name
      lost.push(...(await lookAround(dataDir, `kill ${k}`)))
    }
    const newest = [...files].slice(-3)
    for (const [hash, size] of k === count ? files : newest) {
      const got = new Uint8Array(await (await fetch(`${server.url}/api/assets/${hash}`)).arrayBuffer())
      if (got.length !== size || sha(got) !== hash)
        lost.push(`kill ${k}: file ${hash} has ${got.length} of ${size} bytes`)
    }
    if (k === count) {
      await server.kill()
      break
    }
    let going = true
    const saving = (async () => {
      while (going) {
        const name = `save ${saves} ${randomUUID()}`
        const r = await json('PUT', `/api/projects/${project}`, {
          baseRevision: acknowledged,
          document: doc(name),
        }).catch(() => null)
        if (r?.status !== 200) return
        const body = (await r.json().catch(() => null)) as { revision: number } | null
        if (!body) return
        acknowledged = body.revision
        text = name
        saves++
      }
    })()
    const uploading = (async () => {
      for (let n = k * 1000; going; n++) {
        const body = someGlb(n)
        const headers = { 'Content-Type': 'model/gltf-binary', 'X-Content-Sha256': sha(body) }
        const r = await fetch(`${server.url}/api/assets`, {
          method: 'POST',
          headers,
          body: new Uint8Array(body),
        }).catch(() => null)
        if (r?.status === 201) files.set(sha(body), body.length)
      }
    })()
    // a slow disk gets the time that it needs: something is acknowledged in every round, an upload in every third
    const before = { saves, files: files.size }
    await reached(() => saves > before.saves && (k % 3 > 0 || files.size > before.files))
    await sleep(20 + random() * 350)
    await server.kill()
    going = false
    await Promise.all([saving, uploading])
  }
  return { kills: count, saves, uploads: files.size, lost }
}

/** Waits until something holds, 20 s at most. */
async function reached(holds: () => boolean): Promise<void> {
  for (const begun = performance.now(); !holds() && performance.now() - begun < 20_000;) await sleep(5)
}

/** No piece of an unfinished upload stays, and the file itself is sound. */
async function lookAround(dataDir: string, when: string): Promise<string[]> {
  const db = new Sqlite(databaseFile(dataDir), { readonly: true })
  try {
    const loose = db
      .prepare('SELECT COUNT(*) AS n FROM asset_chunk WHERE "uploadId" NOT IN (SELECT "uploadId" FROM asset)')
      .get() as { n: number }
    const verdict = db.pragma('quick_check(1)', { simple: true })
    return [
      ...(loose.n > 0 ? [`${when}: ${loose.n} pieces of unfinished uploads stayed`] : []),
      ...(verdict === 'ok' ? [] : [`${when}: ${String(verdict)}`]),
    ]
  } finally {
    db.close()
  }
}
