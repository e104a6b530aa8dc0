// The application's stores for component tests: a project open in memory, and a stage that answers without workers.
import { createPinia, setActivePinia } from 'pinia'
import { vi } from 'vitest'
import type { SceneFacts } from '#mesh'
import { aimAt, newModel, newProject, type ProjectDocument } from '#model'
import { api } from '../../app/api/client.ts'
import { useProject } from '../../app/stores/project.ts'
import { useStage } from '../../app/stores/stage.ts'

export const model = newModel({ id: 'm', name: 'room.glb', sha256: 'a'.repeat(64), sizeBytes: 10 })

const node = (id: string, box: SceneFacts['box'], materials: string[], kind: string | null = null) => ({
  id,
  name: id.slice(id.lastIndexOf('/') + 1),
  parentId: id.includes('/') ? id.slice(0, id.lastIndexOf('/')) : null,
  kind,
  storey: null,
  box,
  triangles: 12,
  materials,
  axes: [[1, 0, 0], [0, 1, 0], [0, 0, 1]] as const, // prettier-ignore
})
/** A room of 6 x 4 x 3 m with two tables of one wood. */
export const roomFacts: SceneFacts = {
  nodes: [
    node('room', { min: [0, 0, 0], max: [6, 4, 3] }, []),
    node('room/Walls', { min: [0, 0, 0], max: [6, 4, 3] }, ['plaster'], 'wall'),
    node('room/Set', { min: [1, 1, 0], max: [4, 2, 0.75] }, []),
    node('room/Set/Table', { min: [1, 1, 0], max: [2, 2, 0.75] }, ['oak']),
    node('room/Set/Bench', { min: [3, 1, 0], max: [4, 2, 0.45] }, ['oak', 'felt']),
  ],
  box: { min: [0, 0, 0], max: [6, 4, 3] },
  triangles: 60,
}

/** Opens a project whose saves are kept in memory; the stage is ready with the room. */
export async function openInMemory(changes: Partial<ProjectDocument> = {}): Promise<void> {
  setActivePinia(createPinia())
  sessionStorage.clear()
  const document = {
    ...newProject({ name: 'Room', subject: 'room', stand: aimAt([1, 1, 1.6], [4, 1, 1.6]), models: [model] }),
    ...changes,
  }
  vi.spyOn(api, 'open').mockResolvedValue({ id: 'p', revision: 1, savedAt: 'now', document })
  vi.spyOn(api, 'save').mockImplementation(async (_id, base) => ({ revision: base + 1, savedAt: 'now' }))
  await useProject().open('p')
  const stage = useStage()
  stage.facts = roomFacts
  stage.state = { kind: 'ready' }
  stage.storeys = [{ name: 'Ground floor', heightM: 0, areaM2: 24 }]
  stage.light = null
}

/** Lets the project go before the stand-ins do: a save still waiting must not reach for a server. */
export async function closeInMemory(): Promise<void> {
  await useProject().close()
  vi.restoreAllMocks()
}
