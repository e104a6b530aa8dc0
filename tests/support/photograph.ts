// A project with a photograph of the room, open in memory; what the workers answer is worked out in the test itself.
import { vi } from 'vitest'
import { projectPoint, type Camera } from '#core/camera'
import { leaveOneOut, solvePhoto, type PicturePlace } from '#core/match'
import type { Vec3 } from '#core/math'
import {
  aimAt,
  newModel,
  newProject,
  projectSchema,
  type Photo,
  type PhotoMatchPart,
  type ProjectDocument,
} from '#model'
import { cameraFound, newMatch, type SolvedCamera } from '#model/photo'

export const SIZE = { widthPx: 3000, heightPx: 2000 } as const
/** From a corner of the room, a little downward. */
export const TRUTH: SolvedCamera = {
  ...{ focalPx: 2100, principal: [1500, 1000], station: [0.4, 0.5, 1.6], bearingDeg: 52, tiltDeg: -6, rollDeg: 0.8 },
  distortion: { k1: -0.03, k2: 0, k3: 0, p1: 0, p2: 0 },
}
export const truthCamera: Camera = cameraFound(SIZE, TRUTH)
export const seen = (p: Vec3): PicturePlace => {
  const { xPx, yPx } = projectPoint(truthCamera, p)!
  return [xPx, yPx]
}
/** Corners of both tables and of the far wall. */
export const CORNERS: readonly Vec3[] = [
  ...([[1, 1], [2, 1], [2, 2], [1, 2], [3, 1], [4, 1], [4, 2], [3, 2]] as const).flatMap(([x, y]): Vec3[] => [[x, y, 0.75], [x, y, 0]]),
  ...[[6, 4, 0], [6, 4, 3], [6, 2, 0]] as const,
] // prettier-ignore

export const SITE = 'site'
/** What is drawn on the only one of a project. */
export const drawnOn = (doc: ProjectDocument): PhotoMatchPart => doc.photos![0]!.match
export function photoOfRoom(changes: Partial<PhotoMatchPart> = {}): Photo {
  const match = newMatch({ ...SIZE, bundleIds: ['north', 'east', 'up'] })
  return {
    ...{ id: SITE, name: 'Site', sha256: 'ef'.repeat(32), sizeBytes: 5000, ...SIZE },
    match: { ...match, treatments: { focalPx: 'free', k1: 'free' }, ...changes },
  }
}
/** Whether the schema takes a match. */
export function isTaken(drawn: PhotoMatchPart): boolean {
  const model = newModel({ id: 'm', name: 'a.glb', sha256: 'cd'.repeat(32), sizeBytes: 1 })
  const plain = newProject({ name: 'P', subject: 'room', stand: aimAt([0, 0, 1.6], [0, 5, 1.6]), models: [model] })
  return projectSchema.safeParse({ ...plain, photos: [photoOfRoom(drawn)] }).success
}
/** Pairs of corners where the camera of the room sees them. */
export const pairsSeen = (corners = CORNERS): Photo['match']['pairs'] => corners.map((world, i) => ({ id: `p${i}`, world, image: seen(world) })) // prettier-ignore

/** Stands in for the workers that read photographs and solve matches: use as `vi.mock('#workers', workersInTest)`. */
export const workersInTest = () => ({
  createMatch: () => ({
    solve: async (asked: Parameters<typeof solvePhoto>[0]) => solvePhoto(asked),
    weakest: async (asked: Parameters<typeof leaveOneOut>[0], found: Parameters<typeof leaveOneOut>[1]) =>
      leaveOneOut(asked, found),
    dispose: () => undefined,
  }),
  createPhoto: () => ({
    open: async () => undefined,
    preview: async () => ({ width: 1500, height: 1000, close: () => undefined }),
    refine: async () => null,
    part: async () => null,
    dispose: () => undefined,
  }),
  createGeometry: vi.fn(),
  createImport: vi.fn(),
  readTable: vi.fn(),
})
/** Waits until what was asked is answered. */
export const settled = async (): Promise<void> => {
  for (let i = 0; i < 20; i++) await Promise.resolve()
}
