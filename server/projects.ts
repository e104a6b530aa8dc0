// Projects and their revisions: read, save against a base revision, restore, thin out.
import { randomUUID } from 'node:crypto'
import type { DataSource, EntityManager } from 'typeorm'
import { AppError } from '#core/base'
import { packed, type PackedDocument, type ProjectDocument } from '#model'
import { Changes } from './changes.ts'
import { Revisions, type Incoming } from './revisions.ts'
import { AssetEntity, ProjectEntity, RevisionEntity, type Project, type Revision } from './storage/entities.ts'
import { referencesIn, revisionTexts } from './storage/read.ts'
import type { Writer } from './storage/writer.ts'

/** All of the newest stay; older ones one an hour, then one a day. The first one and labelled ones always stay. */
const KEEP_NEWEST = 60

export interface Opened {
  readonly id: string
  readonly revision: number
  readonly savedAt: string
  readonly document: ProjectDocument
  /** The same as it travels. */
  readonly packed: PackedDocument
  /** Where the newest revision cannot be read: which one is shown in its place. */
  readonly damaged?: { readonly newest: number; readonly shown: number; readonly because: string }
}
/** What a save says of itself. */
export interface SaveMark {
  /** The sender's own name for this save: the same one sent again is recognised. */
  readonly saveId?: string | undefined
  /** Earlier saves of the same sender on the same base whose answers never came. */
  readonly unsure?: readonly string[] | undefined
  readonly label?: string | undefined
}
export interface SavedAs {
  readonly revision: number
  readonly savedAt: string
}
/** What deleting a project gives back: its own rows at once, files that no other project uses when they are swept. */
export interface Weight {
  readonly nowBytes: number
  readonly sweptBytes: number
}

export class Projects {
  private readonly reader: DataSource
  private readonly writer: Writer
  private readonly now: () => Date
  private readonly texts = new Revisions()
  /** Told after the commit. */
  readonly changes = new Changes()
  constructor(reader: DataSource, writer: Writer, now: () => Date = () => new Date()) {
    this.reader = reader
    this.writer = writer
    this.now = now
  }

  async list(): Promise<(Omit<Project, 'cover'> & { hasCover: boolean })[]> {
    const all = await this.reader.getRepository(ProjectEntity).find({ order: { updatedAt: 'DESC' } })
    return all.map((p) => ({ ...p, hasCover: p.coverType !== null }))
  }

  /** A new project. The same one sent again under its own id is answered as it was; AppError `id-taken` for another's id. */
  async create(document: ProjectDocument, id: string = randomUUID()): Promise<Opened> {
    const at = this.now().toISOString()
    const small = packed(document)
    const text = JSON.stringify(small)
    const savedAt = await this.writer.write(async (m) => {
      if (await m.findOneBy(ProjectEntity, { id })) {
        const first = await m.findOneBy(RevisionEntity, { projectId: id, number: 1 })
        if (first?.document !== text) throw new AppError('id-taken')
        return first.savedAt
      }
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
        document: text,
        isPatch: false,
        label: null,
        savedAt: at,
        saveId: null,
      })
      return at
    })
    return { id, revision: 1, savedAt, document, packed: small }
  }

  /**
   * The newest revision, or the last one that can be read where the newest is damaged (the next save then follows the damaged
   * one). AppError `document-newer` when a newer Yoroi wrote it, `document-invalid` when none can be read.
   */
  async open(id: string): Promise<Opened> {
    const project = await this.one(this.reader.manager, id)
    const newest = project.revision
    let because: string | null = null
    for (const { number, savedAt } of await this.numbers(id)) {
      const read = await this.texts.read(this.reader.manager, id, number)
      if (read.ok) {
        const { document, packed } = read.held
        const opened = { id, revision: newest, savedAt, document, packed }
        if (number === newest) {
          this.texts.keep(id, number, read.held)
          return opened
        }
        const damaged = { newest, shown: number, because: because ?? 'It is not there any more.' }
        return { ...opened, damaged }
      }
      if (read.error.code === 'document-newer') throw read.error
      because ??= read.error.detail ?? 'It cannot be read.'
    }
    throw new AppError('document-invalid', because ?? 'None of its versions is there any more.')
  }

  /**
   * Saves as the revision after `base`. AppError `revision-conflict` when another came in between, `patch-mismatch` when a patch does
   * not make what the sender has; a save that came in already is answered as it was, and one whose own forerunner came in (`unsure`)
   * follows it.
   */
  async save(id: string, base: number, incoming: Incoming | ProjectDocument, mark: SaveMark = {}): Promise<SavedAs> {
    const at = this.now().toISOString()
    const sent: Incoming = 'schemaVersion' in incoming ? { document: incoming } : incoming
    const { saved, next } = await this.writer.write(async (m) => {
      const project = await this.one(m, id)
      let number = base + 1
      if (project.revision !== base) {
        const again = await this.recognised(m, project, base, mark)
        if (again === null)
          throw new AppError('revision-conflict', undefined, {
            revision: project.revision,
            updatedAt: project.updatedAt,
          })
        if ('savedAt' in again) return { saved: again, next: null }
        number = again.after + 1
      }
      const next = await this.texts.next(m, id, number - 1, sent)
      const { saveId = null, label = null } = mark
      const { text, isPatch } = next
      await m.insert(RevisionEntity, { projectId: id, number, document: text, isPatch, label, savedAt: at, saveId })
      await m.update(ProjectEntity, { id }, { name: next.document.name, revision: number, updatedAt: at })
      if (number % 20 === 0) await this.thin(m, id, number)
      return { saved: { revision: number, savedAt: at }, next }
    })
    // only what is on disk is built upon
    if (next) {
      this.texts.keep(id, saved.revision, next)
      this.changes.tell({ kind: 'saved', id, ...saved, saveId: mark.saveId ?? null })
    }
    return saved
  }

  /** A save on an older base that is no conflict: it came in already, or the newest revision is the sender's own. */
  private async recognised(
    m: EntityManager,
    project: Project,
    base: number,
    { saveId, unsure = [] }: SaveMark,
  ): Promise<SavedAs | { after: number } | null> {
    if (project.revision < base) return null
    const rows = (await m.query(
      'SELECT "number", "savedAt", "saveId" FROM "revision" WHERE "projectId" = ? AND "number" > ? AND "saveId" IS NOT NULL',
      [project.id, base],
    )) as { number: number; savedAt: string; saveId: string }[]
    const same = saveId === undefined ? undefined : rows.find((r) => r.saveId === saveId)
    if (same) return { revision: same.number, savedAt: same.savedAt }
    const newest = rows.find((r) => r.number === project.revision)
    return newest && unsure.includes(newest.saveId) ? { after: project.revision } : null
  }

  async revisions(id: string): Promise<Pick<Revision, 'number' | 'label' | 'savedAt'>[]> {
    await this.one(this.reader.manager, id)
    return this.reader.getRepository(RevisionEntity).find({
      where: { projectId: id },
      order: { number: 'DESC' },
      select: { projectId: true, number: true, label: true, savedAt: true },
    })
  }

  async revision(id: string, number: number): Promise<Opened> {
    await this.one(this.reader.manager, id)
    const rev = await this.reader.getRepository(RevisionEntity).findOneBy({ projectId: id, number })
    if (!rev) throw new AppError('revision-missing')
    const read = await this.texts.read(this.reader.manager, id, number)
    if (!read.ok) throw read.error
    const { document, packed } = read.held
    return { id, revision: number, savedAt: rev.savedAt, document, packed }
  }

  /** An old revision comes back as a new one on top: nothing in between is lost. */
  async restore(id: string, number: number, base: number): Promise<SavedAs> {
    const old = await this.revision(id, number)
    return this.save(id, base, old.document, { label: `Restored from ${number}` })
  }

  /** Linear in all that is stored where the project has files of its own. */
  async weight(id: string): Promise<Weight> {
    await this.one(this.reader.manager, id)
    const [own] = (await this.reader.query(
      `SELECT COALESCE(SUM(LENGTH(CAST("document" AS BLOB))), 0)
        + (SELECT COALESCE(LENGTH("cover"), 0) FROM "project" WHERE "id" = ?) AS bytes FROM "revision" WHERE "projectId" = ?`,
      [id, id],
    )) as { bytes: number }[]
    const [mine, others] = [new Set<string>(), new Set<string>()]
    const newest = await this.reader.getRepository(RevisionEntity).findBy({ projectId: id })
    for (const r of newest) referencesIn(r.document, mine)
    if (mine.size > 0)
      for await (const r of revisionTexts(this.reader)) if (r.projectId !== id) referencesIn(r.document, others)
    const alone = [...mine].filter((s) => !others.has(s))
    let sweptBytes = 0
    for (const sha256 of alone)
      sweptBytes += (await this.reader.getRepository(AssetEntity).findOneBy({ sha256 }))?.sizeBytes ?? 0
    return { nowBytes: own?.bytes ?? 0, sweptBytes }
  }

  async remove(id: string): Promise<Weight> {
    const weight = await this.weight(id)
    await this.writer.write(async (m) => {
      await this.one(m, id)
      await m.delete(ProjectEntity, { id })
    })
    this.texts.forget(id)
    this.changes.tell({ kind: 'deleted', id })
    return weight
  }

  async setCover(id: string, data: Buffer, type: string): Promise<void> {
    await this.writer.write(async (m) => {
      await this.one(m, id)
      await m.update(ProjectEntity, { id }, { cover: data, coverType: type })
    })
  }

  async cover(id: string): Promise<{ data: Buffer; type: string }> {
    const p = await this.reader
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

  /** All revisions, newest first. */
  private async numbers(id: string): Promise<{ number: number; savedAt: string }[]> {
    return (await this.reader.query(
      'SELECT "number", "savedAt" FROM "revision" WHERE "projectId" = ? ORDER BY "number" DESC',
      [id],
    )) as { number: number; savedAt: string }[]
  }

  private async thin(m: EntityManager, id: string, newest: number): Promise<void> {
    const all = await m.find(RevisionEntity, {
      where: { projectId: id },
      order: { number: 'DESC' },
      select: { projectId: true, number: true, label: true, savedAt: true, isPatch: true },
    })
    const dayAgo = this.now().getTime() - 24 * 3600_000
    const seen = new Set<string>()
    const gone = new Set<number>()
    for (const r of all) {
      if (r.number > newest - KEEP_NEWEST || r.number === 1 || r.label !== null) continue
      const slot = Date.parse(r.savedAt) > dayAgo ? r.savedAt.slice(0, 13) : r.savedAt.slice(0, 10)
      if (seen.has(slot)) gone.add(r.number)
      seen.add(slot)
    }
    for (const r of all)
      if (r.isPatch && gone.has(r.number - 1) && !gone.has(r.number)) await this.standAlone(m, id, r.number)
    for (const number of gone) await m.delete(RevisionEntity, { projectId: id, number })
  }

  /** A revision whose forerunner goes holds the whole document from now on; one that cannot be read keeps its forerunner's fate. */
  private async standAlone(m: EntityManager, id: string, number: number): Promise<void> {
    const read = await this.texts.read(m, id, number)
    if (read.ok)
      await m.update(
        RevisionEntity,
        { projectId: id, number },
        { document: JSON.stringify(read.held.packed), isPatch: false },
      )
  }
}
