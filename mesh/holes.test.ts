// Rays and light through cut-outs: what the map says is not there is not met.
import fc from 'fast-check'
import {
  BufferAttribute,
  DataTexture,
  DoubleSide,
  Group,
  Mesh,
  MeshStandardMaterial,
  MirroredRepeatWrapping,
  PlaneGeometry,
  RepeatWrapping,
} from 'three'
import { describe, expect, it } from 'vitest'
import type { Vec3 } from '#core/math'
import { irradiance } from '#core/optics'
import { bakeLight, MeshScene, soupOf } from './index.ts'
import { lightAt } from './light.ts'

/** A map two texels wide: nothing on its left, all on its right. */
function halfMap(): DataTexture {
  const t = new DataTexture(new Uint8Array([255, 255, 255, 0, 255, 255, 255, 255]), 2, 1)
  t.wrapS = t.wrapT = RepeatWrapping
  return t
}
/** A level square of 2 x 2 m about the middle at a height; u runs along x. */
function sheet(heightM: number, map: DataTexture | null, name: string): Mesh {
  map?.updateMatrix()
  const material = new MeshStandardMaterial({ map, alphaTest: map ? 0.5 : 0, side: DoubleSide })
  const m = new Mesh(new PlaneGeometry(2, 2), material)
  m.position.z = heightM
  m.name = name
  return m
}
function sceneOf(...meshes: Mesh[]): MeshScene {
  const root = new Group()
  const model = new Group()
  root.add(model)
  model.add(...meshes)
  const { soup, facts } = soupOf(root)
  return new MeshScene(soup, facts)
}
const below = (scene: MeshScene, x: number, y = 0.3): string | null =>
  scene.pick({ origin: [x, y, 5], direction: [0, 0, -1] })?.nodeName ?? null

describe('a ray', () => {
  it('goes through the holes of a sheet and meets the rest of it', () => {
    const scene = sceneOf(sheet(0, null, 'floor'), sheet(1, halfMap(), 'leaf'), sheet(2, halfMap(), 'twig'))
    expect(below(scene, -0.5)).toBe('floor')
    expect(below(scene, 0.5)).toBe('twig')
    const hit = scene.pick({ origin: [-0.5, 0.3, 5], direction: [0, 0, -1] })!
    expect(hit.distanceM).toBeCloseTo(5, 6)
    expect(hit.point[2]).toBeCloseTo(0, 6)
  })
  it('knows scale, offset, mirroring and the second set of places', () => {
    const scaled = halfMap()
    scaled.repeat.set(2, 1)
    const shifted = halfMap()
    shifted.offset.set(0.5, 0)
    const mirrored = halfMap()
    mirrored.repeat.set(2, 1)
    mirrored.wrapS = MirroredRepeatWrapping
    // twice across: nothing, all, nothing, all; mirrored: nothing, all, all, nothing
    const row = (map: DataTexture) =>
      [-0.75, -0.25, 0.25, 0.75].map((x) => below(sceneOf(sheet(1, map, 'x')), x) === 'x')
    expect(row(scaled)).toEqual([false, true, false, true])
    expect(row(shifted)).toEqual([true, true, false, false])
    expect(row(mirrored)).toEqual([false, true, true, false])
    const second = halfMap()
    second.channel = 1
    const m = sheet(1, second, 'x')
    const uv = m.geometry.getAttribute('uv')
    // the second set runs the other way
    m.geometry.setAttribute(
      'uv1',
      new BufferAttribute(
        Float32Array.from(uv.array, (v, i) => (i % 2 === 0 ? 1 - v : v)),
        2,
      ),
    )
    expect([-0.5, 0.5].map((x) => below(sceneOf(m), x) === 'x')).toEqual([true, false])
  })
  it('takes a sheet for whole whose map cannot be read or has no places', () => {
    const unread = sheet(1, halfMap(), 'x')
    ;(unread.material as MeshStandardMaterial).map!.image = {} as never
    expect(below(sceneOf(unread), -0.5)).toBe('x')
    const placeless = sheet(1, halfMap(), 'x')
    placeless.geometry.deleteAttribute('uv')
    expect(below(sceneOf(placeless), -0.5)).toBe('x')
  })
  it('meets a sheet exactly where its map is, whatever the direction; and has its own origin again', () => {
    const scene = sceneOf(sheet(0, null, 'floor'), sheet(1, halfMap(), 'leaf'))
    const at = fc.double({ min: -0.95, max: 0.95, noNaN: true }).filter((x) => Math.abs(x) > 1e-3)
    fc.assert(
      fc.property(at, at, fc.double({ min: -0.5, max: 0.5, noNaN: true }), (x, y, lean) => {
        const origin: Vec3 = [x - lean, y, 2]
        const sight = { origin, direction: [lean, 0, -1] as Vec3 }
        const first = scene.pick(sight)?.nodeName ?? null
        expect(first === 'leaf').toBe(x > 0)
        expect(scene.pick(sight)?.nodeName ?? null).toBe(first)
      }),
      { numRuns: 300 },
    )
  })
})

it('light comes through the holes of a roof', async () => {
  const sky = { sunBearingDeg: 180, sunElevationDeg: 89, skyLux: 10_000, sunLux: 0 }
  const lit = async (map: DataTexture | null): Promise<number> => {
    const roof = sheet(1.5, map, 'roof')
    roof.scale.set(4, 4, 1)
    // its face looks down: a place that sees mostly backs counts as inside a solid
    roof.rotation.x = Math.PI
    const floor = sheet(0, null, 'floor')
    floor.scale.set(4, 4, 1)
    const v = await bakeLight(sceneOf(floor, roof), { sky, places: 800, raysPerPlace: 100 })
    // what falls from above under the middle of the roof's open half
    return irradiance(lightAt(v, [-2, 0, 0.75], 1), [0, 0, 1])
  }
  const whole = await lit(null)
  const half = await lit(halfMap())
  expect(half).toBeGreaterThan(2 * whole)
})
