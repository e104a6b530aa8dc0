import { beforeAll, describe, expect, it } from 'vitest'
import { projectPoint } from '#core/camera'
import type { Vec3 } from '#core/math'
import { ALL_SHOWN } from '#core/section'
import { loadGlb } from '#formats/scene'
import { Pen } from '../scripts/demo-data/kit.ts'
import { cameraOf, hiding } from '../tests/support/cameras.ts'
import { glbOf } from '../tests/support/models.ts'
import { featureEdges, MeshScene, pickFeature, soupOf } from './index.ts'

let scene: MeshScene
beforeAll(async () => {
  const counter = new Pen('Counter').use('oak').box(-1, 3, 0, 1, 4, 0.9, { bevel: 0 })
  const post = new Pen('Post').use('oak').box(0.7, 2.4, 0, 0.9, 2.6, 2, { bevel: 0 })
  const { soup, facts } = soupOf(await loadGlb(glbOf([counter.node(), post.node()]), { textures: false }))
  scene = new MeshScene(soup, facts)
})
const camera = cameraOf({ station: [0, 0, 1.5] }, {}, [900, 600])
const near = (p: Vec3, dx = 0, dy = 0, reach = 8) => {
  const at = projectPoint(camera, p)!
  return pickFeature(scene, camera, [at.xPx + dx, at.yPx + dy], reach, hiding())
}

describe('feature edges', () => {
  it('a box has twelve, without the diagonals of its faces', () => {
    const node = scene.facts.nodes.findIndex((n) => n.name === 'Counter')
    expect(featureEdges(scene.soup, node)).toHaveLength(12 * 6)
    expect(scene.edgesOf('Counter', ALL_SHOWN)).toBe(scene.edgesOf('Counter', ALL_SHOWN))
  })
})

describe('picking corners and edges', () => {
  it('a point near a corner is the corner', () => {
    const hit = near([-1, 3, 0.9], 3, 3)!
    expect(hit.feature).toBe('corner')
    hit.point.forEach((v, i) => expect(v).toBeCloseTo([-1, 3, 0.9][i]!, 5))
  })
  it('a point near an edge is the nearest point of the edge, where perspective puts it', () => {
    const hit = near([-0.4, 3, 0.9], 0, 4)!
    expect(hit.feature).toBe('edge')
    hit.point.forEach((v, i) => expect(v).toBeCloseTo([-0.4, 3, 0.9][i]!, 4))
    // with both of its ends
    const ends = [...hit.edge!].sort((a, b) => a[0] - b[0])
    expect(ends.flat().map((v) => Math.round(v * 1e4) / 1e4)).toEqual([-1, 3, 0.9, 1, 3, 0.9])
    // along an edge that runs away from the eye as well
    const away = near([-1, 3.5, 0.9], 3, 0)!
    expect(away.feature).toBe('edge')
    expect(away.point[0]).toBeCloseTo(-1, 5)
    expect(away.point[1]).toBeGreaterThan(3.4)
    expect(away.point[1]).toBeLessThan(3.6)
  })
  it('away from edges it is the surface; past everything, nothing', () => {
    expect(near([-0.4, 3, 0.5])!.feature).toBe('surface')
    expect(near([-0.4, 3, 0.5])!.point[2]).toBeCloseTo(0.5, 5)
    expect(near([0, 5, 3])).toBeNull()
  })
  it('an edge hidden behind something else is not taken', () => {
    // the counter's right corner lies behind the post
    const hit = near([1, 3, 0.9], 1, 2, 14)
    expect(hit!.nodeId).toBe('Post')
  })
})
