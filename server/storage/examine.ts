// Is everything in a data folder readable and whole?
import type { DataSource } from 'typeorm'
import { isSound } from '../assets.ts'
import { Revisions } from '../revisions.ts'
import { AssetEntity, ProjectEntity } from './entities.ts'
import { referencesIn, revisionTexts } from './read.ts'

export interface Examined {
  readonly projects: number
  readonly revisions: number
  readonly assets: number
  /** What is damaged, a sentence each; empty when all is well. */
  readonly faults: readonly string[]
}

/** Reads every page, project, revision and asset. Linear in the bytes stored. */
export async function examine(reader: DataSource): Promise<Examined> {
  const faults = await pageFaults(reader)
  const all = <T>(list: () => Promise<T[]>, what: string): Promise<T[]> =>
    list().catch((e: unknown) => {
      faults.push(`The list of ${what} cannot be read (${e instanceof Error ? e.message : String(e)}).`)
      return []
    })
  const projects = await all(() => reader.getRepository(ProjectEntity).find(), 'projects')
  const assets = await all(() => reader.getRepository(AssetEntity).find(), 'files')
  const known = new Set(assets.map((a) => a.sha256))
  const name = new Map(projects.map((p) => [p.id, p.name]))
  const newest = new Set<string>()
  let revisions = 0
  const texts = new Revisions()
  try {
    for await (const r of revisionTexts(reader)) {
      revisions++
      const of = `“${name.get(r.projectId) ?? r.projectId}”, version ${r.number}`
      const read = await texts.read(reader.manager, r.projectId, r.number)
      if (!read.ok) faults.push(`${of} cannot be read: ${read.error.message}`)
      const project = projects.find((p) => p.id === r.projectId)
      if (!project) faults.push(`${of} belongs to no project.`)
      else if (project.revision === r.number) {
        newest.add(project.id)
        const wanted = new Set<string>()
        referencesIn(JSON.stringify(read.ok ? read.held.document.models : []), wanted)
        for (const s of wanted) if (!known.has(s)) faults.push(`${of} uses a file that is not stored here (${s}).`)
      }
    }
  } catch (e) {
    faults.push(`The revisions cannot be read to the end (${e instanceof Error ? e.message : String(e)}).`)
  }
  for (const p of projects) if (!newest.has(p.id)) faults.push(`“${p.name}” lacks its newest version, ${p.revision}.`)
  for (const a of assets) {
    const sound = await isSound(reader, a).catch(() => false)
    if (!sound) faults.push(`The file “${a.fileName}” (${a.sha256}) is damaged. Bring it in again from your disk.`)
  }
  return { projects: projects.length, revisions, assets: assets.length, faults }
}

async function pageFaults(reader: DataSource): Promise<string[]> {
  try {
    const rows = (await reader.query('PRAGMA integrity_check(20)')) as { integrity_check: string }[]
    return rows.map((r) => r.integrity_check).filter((t) => t !== 'ok').map((t) => `The data file: ${t}.`) // prettier-ignore
  } catch (e) {
    return [`The data file cannot be read to the end (${e instanceof Error ? e.message : String(e)}).`]
  }
}
