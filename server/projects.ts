// Projects and their revisions: read, save against a base revision, restore, thin out.
import { randomUUID } from 'node:crypto'
import type { DataSource, EntityManager } from 'typeorm'
import { AppError } from '#core/base'
import { readProjectDocument, type ProjectDocument } from '#model'
import type { Writer } from './data-source.ts'
import { ProjectEntity, RevisionEntity, type Project, type Revision } from './entities/index.ts'

/** All of the newest stay; older ones one an hour, then one a day. Labelled ones always stay. */
const KEEP_NEWEST = 60

export interface Opened {
  readonly id: string
  readonly revision: number
  readonly savedAt: string
  readonly document: ProjectDocument
}

/** The document behind the door, or AppError `document-invalid` / `document-newer`. */
export function checkedDocument(value: unknown): ProjectDocument {
  const r = readProjectDocument(value)
  if (r.ok) return r.value
  throw new AppError(r.reason === 'newer-version' ? 'document-newer' : 'document-invalid', r.message)
}

export class Projects {
  private readonly source: DataSource
  private readonly writer: Writer
  private readonly now: () => Date
  constructor(source: DataSource, writer: Writer, now: () => Date = () => new Date()) {
    this.source = source
    this.writer = writer
    this.now = now
  }

  async list(): Promise<(Omit<Project, 'cover'> & { hasCover: boolean })[]> {
    const all = await this.source.getRepository(ProjectEntity).find({ order: { updatedAt: 'DESC' } })
    return all.map((p) => ({ ...p, hasCover: p.coverType !== null }))
  }

  async create(document: ProjectDocument, id: string = randomUUID()): Promise<Opened> {
    const at = this.now().toISOString()
    await this.writer.write(async (m) => {
      await m.insert(ProjectEntity, {
        id,
        name: document.name,
        revision: 1,
        createdAt: at,
        updatedAt: at,
        cover: null,
        coverType: null,
      })
      await m.insert(RevisionEntity, {
        projectId: id,
        number: 1,
        document: JSON.stringify(document),
        label: null,
        savedAt: at,
      })
    })
    return { id, revision: 1, savedAt: at, document }
  }

  async open(id: string): Promise<Opened> {
    const project = await this.one(this.source.manager, id)
    const rev = await this.source.getRepository(RevisionEntity).findOneBy({ projectId: id, number: project.revision })
    if (!rev) throw new AppError('revision-missing')
    return { id, revision: rev.number, savedAt: rev.savedAt, document: checkedDocument(JSON.parse(rev.document)) }
  }

  /** Saves as the revision after `base`; AppError `revision-conflict` when another came in between. */
  save(
    id: string,
    base: number,
    document: ProjectDocument,
    label: string | null = null,
  ): Promise<{ revision: number; savedAt: string }> {
    const at = this.now().toISOString()
    return this.writer.write(async (m) => {
      const project = await this.one(m, id)
      if (project.revision !== base)
        throw new AppError('revision-conflict', undefined, { revision: project.revision, updatedAt: project.updatedAt })
      const number = base + 1
      await m.insert(RevisionEntity, { projectId: id, number, document: JSON.stringify(document), label, savedAt: at })
      await m.update(ProjectEntity, { id }, { name: document.name, revision: number, updatedAt: at })
      if (number % 20 === 0) await this.thin(m, id, number)
      return { revision: number, savedAt: at }
    })
  }

  async revisions(id: string): Promise<Pick<Revision, 'number' | 'label' | 'savedAt'>[]> {
    await this.one(this.source.manager, id)
    return this.source.getRepository(RevisionEntity).find({
      where: { projectId: id },
      order: { number: 'DESC' },
      select: { projectId: true, number: true, label: true, savedAt: true },
    })
  }

  async revision(id: string, number: number): Promise<Opened> {
    await this.one(this.source.manager, id)
    const rev = await this.source.getRepository(RevisionEntity).findOneBy({ projectId: id, number })
    if (!rev) throw new AppError('revision-missing')
    return { id, revision: number, savedAt: rev.savedAt, document: checkedDocument(JSON.parse(rev.document)) }
  }

  /** An old revision comes back as a new one on top: nothing in between is lost. */
  async restore(id: string, number: number, base: number): Promise<{ revision: number; savedAt: string }> {
    const old = await this.revision(id, number)
    return this.save(id, base, old.document, `Restored from ${number}`)
  }

  async remove(id: string): Promise<void> {
    await this.writer.write(async (m) => {
      await this.one(m, id)
      await m.delete(ProjectEntity, { id })
    })
  }

  async setCover(id: string, data: Buffer, type: string): Promise<void> {
    await this.writer.write(async (m) => {
      await this.one(m, id)
      await m.update(ProjectEntity, { id }, { cover: data, coverType: type })
    })
  }

  async cover(id: string): Promise<{ data: Buffer; type: string }> {
    const p = await this.source
      .getRepository(ProjectEntity)
      .findOne({ where: { id }, select: { id: true, cover: true, coverType: true } })
    if (!p) throw new AppError('project-missing')
    if (!p.cover || !p.coverType) throw new AppError('not-found')
    return { data: p.cover, type: p.coverType }
  }

  private async one(m: EntityManager, id: string): Promise<Project> {
    const p = await m.findOneBy(ProjectEntity, { id })
    if (!p) throw new AppError('project-missing')
    return p
  }

  private async thin(m: EntityManager, id: string, newest: number): Promise<void> {
    const all = await m.find(RevisionEntity, {
      where: { projectId: id },
      order: { number: 'DESC' },
      select: { projectId: true, number: true, label: true, savedAt: true },
    })
    const dayAgo = this.now().getTime() - 24 * 3600_000
    const seen = new Set<string>()
    for (const r of all) {
      if (r.number > newest - KEEP_NEWEST || r.label !== null) continue
      const slot = Date.parse(r.savedAt) > dayAgo ? r.savedAt.slice(0, 13) : r.savedAt.slice(0, 10)
      if (seen.has(slot)) await m.delete(RevisionEntity, { projectId: id, number: r.number })
      seen.add(slot)
    }
  }
}
