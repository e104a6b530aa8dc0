import { describe, expect, it } from 'vitest'
import { standsInOrOn } from '#core/checks'
import { rayThrough } from '#core/camera'
import { joinBoxes, type Box } from '#core/math'
import { ALL_SHOWN } from '#core/section'
import { loadGlb } from '#formats/scene'
import { hallModel } from '../scripts/demo-data/scenes.ts'
import { cameraOf } from '../tests/support/cameras.ts'
import { checkScene } from './check-scene.ts'
import { MeshScene, soupOf } from './index.ts'

const box = (min: Box['min'], max: Box['max']): Box => ({ min, max })

describe('what stands in or on the subject', () => {
  const table = box([0, 0, 0], [2, 1, 0.75])
  it.each([
    ['a vase on it', box([0.9, 0.4, 0.75], [1.1, 0.6, 1.2]), true],
    ['a drawer in it', box([0.1, 0, 0.5], [0.6, 0.6, 0.7]), true],
    ['a cloth a little over its edge', box([-0.03, -0.03, 0.5], [2.03, 1.03, 0.76]), true],
    ['a lamp hanging above', box([0.9, 0.4, 1.6], [1.1, 0.6, 1.9]), false],
    ['a chair before it', box([0.5, -0.6, 0], [1, -0.1, 0.9]), false],
    ['a screen larger than it', box([-1, 0.4, 0], [3, 0.5, 2]), false],
    ['what lies under the floor', box([0.5, 0.2, -0.6], [1, 0.6, -0.2]), false],
  ] as const)('%s', (_what, object, is) => expect(standsInOrOn(object, table)).toBe(is))

  it('does not hide it: books in their shelves, seen through a sight line that meets them first', async () => {
    const { soup, facts } = soupOf(await loadGlb(hallModel().bytes, { textures: false }))
    const hall = new MeshScene(soup, facts)
    const shelves = facts.nodes.find((n) => n.name === 'Bookshelves')!
    const books = facts.nodes.find((n) => n.name === 'Books')!
    expect(standsInOrOn(books.box, shelves.box)).toBe(true)
    const middle = [0, 1, 2].map((k) => (books.box.min[k]! + books.box.max[k]!) / 2)
    const camera = cameraOf({ station: [middle[0]!, middle[1]! + 2.5, middle[2]!], bearingDeg: 180 }, { focalMm: 24 })
    const { widthPx: w, heightPx: h } = camera.frame
    const scene = checkScene(hall, { station: camera.pose.station, shown: ALL_SHOWN, kind: 'room', eyeHeightM: 1.58, subjectId: shelves.id }) // prettier-ignore
    // turned where it stands, its middle goes as the thing does
    const place = { objectId: books.id, moveM: [0.5, 0, 0], turnDeg: 30, hinge: [middle[0]!, middle[1]!, 0] } as const
    const { centreOf } = checkScene(hall, { station: camera.pose.station, shown: { ...ALL_SHOWN, moved: [place] }, kind: 'room', eyeHeightM: 1.58, subjectId: null }) // prettier-ignore
    for (const [i, v] of [middle[0]! + 0.5, middle[1]!, middle[2]!].entries()) expect(centreOf(books.id, [0, 0, 0])![i]).toBeCloseTo(v, 9) // prettier-ignore
    let met = 0
    let booksFirst = 0
    for (let x = 0.3; x < 0.71; x += 0.02)
      for (let y = 0.3; y < 0.71; y += 0.02) {
        const sight = { ...rayThrough(camera, x * w, y * h)!, farM: Infinity }
        if (scene.first(sight)?.nodeId === books.id) booksFirst++
        const before = scene.before(sight, shelves.id)
        if (!before) continue
        met++
        expect(before.map((b) => b.name)).not.toContain('Books')
      }
    expect(met).toBeGreaterThan(50)
    expect(booksFirst).toBeGreaterThan(20)
  })

  it('takes who is marked as a person for one thing, with all below', async () => {
    const { soup, facts } = soupOf(await loadGlb(hallModel().bytes, { textures: false }))
    const group = facts.nodes.find((n) => facts.nodes.filter((m) => m.parentId === n.id && m.materials.length > 0).length > 1)! // prettier-ignore
    const parts = facts.nodes.filter((n) => n.materials.length > 0 && n.id.startsWith(`${group.id}/`))
    const objects = (people?: string[]) =>
      checkScene(new MeshScene(soup, facts), { station: [5, 3, 1.6], shown: ALL_SHOWN, kind: 'room', eyeHeightM: 1.58, subjectId: null, ...(people && { people }) }).objects // prettier-ignore
    expect(objects().some((o) => o.isPerson)).toBe(false)
    const marked = objects([group.id])
    expect(marked.filter((o) => o.isPerson)).toEqual([
      {
        id: group.id,
        name: group.name,
        box: parts.map((n) => n.box).reduce(joinBoxes),
        isBuilding: false,
        isPerson: true,
      },
    ])
    expect(marked.filter((o) => parts.some((p) => p.id === o.id))).toEqual([])
    expect(marked).toHaveLength(objects().length - parts.length + 1)
  })
})
