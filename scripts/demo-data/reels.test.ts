// The demo's reels: as first drawn it has exactly its findings, eased to fit none; nothing comes too near; the drawer opens; a minute.
import { beforeAll, describe, expect, it } from 'vitest'
import { fieldOfView } from '#core/camera'
import { comfortOf, motionOf, reelOf, type ComfortFinding, type ObjectPlace } from '#core/reel'
import { ALL_SHOWN } from '#core/section'
import { loadGlb } from '#formats/scene'
import { clearances } from '../../mesh/clearance.ts'
import { MeshScene, soupOf } from '#mesh'
import { newModel, projectSchema, type ProjectDocument } from '#model'
import { cutsOf } from '#model/reel'
import { hallProject, lampProject } from './projects.ts'
import { DRAWER, withHallReels, withLampTurntable } from './reels.ts'
import { hallModel, lampModel } from './scenes.ts'

let hall: ProjectDocument
let scene: MeshScene
beforeAll(async () => {
  const { bytes, fileName } = hallModel()
  hall = withHallReels(hallProject(newModel({ id: 'm', name: fileName, sha256: 'ab'.repeat(32), sizeBytes: 1 })))
  const { soup, facts } = soupOf(await loadGlb(bytes, { textures: false }))
  scene = new MeshScene(soup, facts)
}, 60_000)

function judged(
  doc: ProjectDocument,
  name: string,
): { readonly findings: ComfortFinding[]; readonly durationS: number; readonly faults: number } {
  const part = doc.reels!.find((r) => r.name === name)!
  const { cuts, setups, faults } = cutsOf(doc, part, {
    centreOf: () => null,
    focusM: ({ focus }) => (focus.on ? 2 : null),
  })
  const reel = reelOf(cuts)
  const motion = motionOf(reel, 25)
  const clearanceM = clearances(scene, motion.stations, [0, 0, 0], 2, ALL_SHOWN)
  const acrossDeg = (k: number): number => {
    const { lens, frame } = setups[motion.cut[k]!]!
    return fieldOfView({ ...lens, focalMm: motion.focalMm[k]! }, frame)!.horizontalDeg
  }
  const findings = comfortOf({
    reel,
    motion,
    shots: cuts.map((c) => c.shot),
    acrossDeg,
    ...(doc === hall && { clearanceM }),
  })
  return { findings, durationS: reel.durationS, faults: faults.length + reel.faults.length }
}

describe('the demo’s reels', () => {
  it('as first drawn: runs, strobes twice, and does not rest at its end', () => {
    const { findings, faults } = judged(hall, 'As first drawn')
    expect(faults).toBe(0)
    expect(findings.map((f) => f.kind)).toEqual(['walk', 'judder', 'judder', 'ends'])
    expect(findings[0]!.value).toBeCloseTo(1.7, 1)
  })
  it('eased to fit: a minute, and nothing is found, no wall nearer than a third of a metre', () => {
    const { findings, durationS, faults } = judged(hall, 'A minute of the hall')
    expect([findings.map((f) => f.text), faults]).toEqual([[], 0])
    expect(durationS).toBeCloseTo(60, 6)
  })
  it('the drawer comes out while the focus is pulled to it', () => {
    const part = hall.reels!.find((r) => r.name === 'A minute of the hall')!
    const reel = reelOf(cutsOf(hall, part, { centreOf: () => null, focusM: () => 2 }).cuts)
    const { startS, endS } = reel.cuts[2]!
    const at = (share: number) => reel.at(startS + (endS - startS) * share)[0]!.take
    expect(at(0.01).moved).toBeUndefined()
    expect(at(0.999).moved).toMatchObject([{ objectId: DRAWER, moveM: [0, -0.3, 0] }])
    // and stays open
    expect(reel.at(reel.durationS)[0]!.take.moved).toMatchObject([{ objectId: DRAWER }])
    expect(at(0.01).focusM).toBeCloseTo(7.6, 1)
    expect(at(0.999).focusM).toBeCloseTo(1.69, 2)
  })
  it('the lamp turns once round before a camera that stands; documents are sound', () => {
    const { fileName } = lampModel()
    const lamp = withLampTurntable(
      lampProject(newModel({ id: 'm', name: fileName, sha256: 'ab'.repeat(32), sizeBytes: 1 })),
    )
    expect(judged(lamp, 'The lamp turning').findings).toEqual([])
    const reel = reelOf(cutsOf(lamp, lamp.reels![0]!, { centreOf: () => null, focusM: () => null }).cuts)
    const [a, b] = [reel.at(0)[0]!.take, reel.at(reel.durationS / 4)[0]!.take]
    expect(b.pose).toEqual(a.pose)
    expect(b.moved!.map((m) => m as ObjectPlace).map((m) => m.turnDeg)).toEqual([-90, -90, -90])
    for (const d of [lamp, hall]) expect(projectSchema.safeParse(d).success).toBe(true)
  })
})
