import { validateBytes } from 'gltf-validator'
import { AnimationMixer, Matrix4, Quaternion, Vector3, type AnimationClip, type Object3D } from 'three'
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js'
import fc from 'fast-check'
import { describe, expect, it, vi } from 'vitest'
import { axesOf, fieldOfView } from '#core/camera'
import { framesOf, reelOf, type Take, type View } from '#core/reel'
import { cameraOf, poseAt } from '../../tests/support/cameras.ts'
import { CSV_COLUMNS, pathCsv, pathGltf, quaternionOf } from './index.ts'

const view = (x: number, bearingDeg: number, focalMm: number): View => {
  const { pose, lens } = cameraOf({ station: [x, 2 * x, 1.6], bearingDeg, tiltDeg: -4 })
  return { pose, lens: { ...lens, focalMm }, focusM: x > 0 ? null : 3, fNumber: 4, ev: 9, awayM: 3 }
}
const FPS = 25
const { frame } = cameraOf()
const frames: readonly Take[] = framesOf(reelOf([{ shot: { kind: 'push', from: view(0, 350, 24), to: view(3, 40, 50), durationS: 3, ease: 'soft', holdsSize: false }, dissolveS: 0 }]), FPS) // prettier-ignore
const text = pathGltf(frames, FPS, frame, 'Path')

describe('the turn of a camera', () => {
  it('takes its axes into the world, as three does it (a library as judge)', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 360, noNaN: true }), fc.double({ min: -90, max: 90, noNaN: true }), fc.double({ min: -180, max: 180, noNaN: true }), (bearingDeg, tiltDeg, rollDeg) => {
        const pose = poseAt({ bearingDeg, tiltDeg, rollDeg })
        const { right, up, forward } = axesOf(pose)
        const judge = new Quaternion().setFromRotationMatrix(new Matrix4().makeBasis(new Vector3(...right), new Vector3(...up), new Vector3(...forward).negate())) // prettier-ignore
        const own = new Quaternion(...quaternionOf(pose))
        expect(own.length()).toBeCloseTo(1, 9)
        expect(Math.abs(own.dot(judge))).toBeCloseTo(1, 9)
      }),
    ) // prettier-ignore
  })
})

describe('a path as a table', () => {
  const rows = pathCsv(frames, FPS).trimEnd().split('\r\n').map((r) => r.split(',')) // prettier-ignore
  it('has a head, a row a frame, and numbers that agree with the reel to a micrometre', () => {
    expect(rows[0]).toEqual([...CSV_COLUMNS])
    expect(rows).toHaveLength(76)
    frames.forEach((f, k) => {
      const v = rows[k + 1]!.map(Number)
      expect(v[0]).toBe(k)
      expect(v[1]).toBeCloseTo(k / FPS, 9)
      f.pose.station.forEach((s, i) => expect(Math.abs(v[2 + i]! - s)).toBeLessThan(1e-6))
      expect(v[5]).toBeCloseTo(f.pose.bearingDeg, 6)
      const turned = new Vector3(0, 0, -1).applyQuaternion(new Quaternion(v[8], v[9], v[10], v[11]))
      const { forward } = axesOf(f.pose)
      expect(turned.distanceTo(new Vector3(...forward))).toBeLessThan(1e-6)
      expect(v[12]).toBeCloseTo(f.lens.focalMm, 6)
    })
    expect(rows[1]![13]).toBe('3')
    expect(rows[75]![13]).toBe('')
  })
})

describe('a path as a glTF animation', () => {
  it('is one that the Khronos validator takes', async () => {
    const report = await validateBytes(new TextEncoder().encode(text.json))
    expect([report.issues.numErrors, report.issues.numWarnings]).toEqual([0, 0])
    expect(text.warnings).toHaveLength(1)
  })
  it('read back by three, its camera stands and looks as the reel’s does, within a micrometre', async () => {
    // the reader's loader tells its progress by what browsers have
    vi.stubGlobal('ProgressEvent', Event)
    const gltf = await new Promise<{ scene: Object3D; animations: AnimationClip[] }>((done, fail) => new GLTFLoader().parse(text.json, '', done, fail)) // prettier-ignore
    const mixer = new AnimationMixer(gltf.scene)
    const clip = gltf.animations[0]!
    clip.tracks = clip.tracks.filter((t) => /position|quaternion/.test(t.name))
    mixer.clipAction(clip).play()
    const node = gltf.scene.children[0]!
    for (let k = 0; k < frames.length - 1; k += 6) {
      mixer.setTime(Math.fround(k / FPS))
      gltf.scene.updateMatrixWorld(true)
      const { station, ...pose } = frames[k]!.pose
      const at = node.getWorldPosition(new Vector3())
      // Y up again Z up; glTF's numbers have 24 bits
      expect(Math.hypot(at.x - station[0], -at.z - station[1], at.y - station[2])).toBeLessThan(1e-5)
      const way = new Vector3(0, 0, -1).applyQuaternion(node.getWorldQuaternion(new Quaternion()))
      const { forward } = axesOf(pose)
      expect(Math.hypot(way.x - forward[0], -way.z - forward[1], way.y - forward[2])).toBeLessThan(1e-5)
    }
  })
  it('has the lens’s angle, and says what others may not show', () => {
    const json = JSON.parse(text.json) as { cameras: { perspective: { yfov: number } }[]; extensionsUsed: string[] }
    const { lens } = frames[0]!
    expect((json.cameras[0]!.perspective.yfov * 180) / Math.PI).toBeCloseTo(fieldOfView(lens, frame)!.verticalDeg, 9)
    expect(json.extensionsUsed).toEqual(['KHR_animation_pointer'])
    const plain = pathGltf(frames.slice(0, 1), FPS, frame, 'One')
    expect(plain.warnings).toEqual([])
    expect(plain.json).not.toContain('KHR_')
    const shifted = frames.slice(0, 2).map((f) => ({ ...f, lens: { ...frames[0]!.lens, riseMm: 3 } }))
    expect(pathGltf(shifted, FPS, frame, 'Shifted').warnings[0]).toMatch(/no rise/)
    expect(() => pathGltf([], FPS, frame, 'None')).toThrow(RangeError)
  })
})
