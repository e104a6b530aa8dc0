// A camera's path as a glTF animation: a node that moves and turns, with one camera; focal lengths that change go by a pointer.
// Space: glTF is Y up: x, z, -y of the world. Source: gltf2 (3.10, 3.11); KHR_animation_pointer.
import { axesOf, usedSensor, type Frame } from '#core/camera'
import type { Vec3 } from '#core/math'
import type { Take } from '#core/reel'
import { ofColumns } from './quaternion.ts'

export interface PathGltf {
  readonly json: string
  /** What other programs may not show. */
  readonly warnings: readonly string[]
}
const NEAR_M = 0.05
const yUp = ([x, y, z]: Vec3): Vec3 => [x, z, -y]

/** Angle of view upward, radians: of the frame's height by its part of the sensor. */
function yFov({ lens }: Take, frame: Frame): number {
  return 2 * Math.atan(usedSensor(lens, frame).heightMm / 2 / lens.focalMm)
}

/** Frames at a rate. RangeError where there are none. */
export function pathGltf(frames: readonly Take[], fps: number, frame: Frame, name: string): PathGltf {
  const [first] = frames
  if (!first) throw new RangeError('pathGltf: no frames')
  const fovs = frames.map((f) => yFov(f, frame))
  const zooms = fovs.some((v) => Math.abs(v - fovs[0]!) > 1e-9)
  const shifts = frames.some((f) => f.lens.riseMm !== 0 || f.lens.crossMm !== 0)
  const turn = (t: Take) => {
    const { right, up, forward } = axesOf(t.pose)
    return ofColumns(yUp(right), yUp(up), yUp([-forward[0], -forward[1], -forward[2]]))
  }
  // neighbours lie on one side, so that what is between two frames turns the shorter way
  let before: readonly number[] | null = null
  const turns = frames.flatMap((f) => {
    const q = turn(f)
    const is = before && q.reduce((s, v, i) => s + v * before![i]!, 0) < 0 ? q.map((v) => -v) : q
    before = is
    return is
  })
  const times = frames.map((_, k) => k / fps)
  const lists = [times, frames.flatMap((f) => yUp(f.pose.station)), turns, ...(zooms ? [fovs] : [])]
  const kinds = ['SCALAR', 'VEC3', 'VEC4', 'SCALAR'] as const
  const n = frames.length
  let at = 0
  const accessors = lists.map((values, i) => {
    const bufferView = { buffer: 0, byteOffset: at, byteLength: values.length * 4 }
    at += values.length * 4
    const range = i === 0 ? { min: [Math.fround(times[0]!)], max: [Math.fround(times.at(-1)!)] } : {}
    return { view: bufferView, accessor: { bufferView: i, componentType: 5126, count: n, type: kinds[i]!, ...range } }
  })
  const sampler = (output: number) => ({ input: 0, output, interpolation: n > 1 ? 'LINEAR' : 'STEP' })
  const channel = (k: number, path: string) => ({ sampler: k, target: { node: 0, path } })
  const pointer = { sampler: 2, target: { path: 'pointer', extensions: { KHR_animation_pointer: { pointer: '/cameras/0/perspective/yfov' } } } } // prettier-ignore
  const json = {
    asset: { version: '2.0', generator: 'Yoroi' },
    ...(zooms && { extensionsUsed: ['KHR_animation_pointer'] }),
    scene: 0,
    scenes: [{ nodes: [0] }],
    nodes: [{ name, camera: 0, translation: yUp(first.pose.station), rotation: turn(first) }],
    cameras: [{ name, type: 'perspective', perspective: { yfov: fovs[0]!, aspectRatio: frame.widthPx / frame.heightPx, znear: NEAR_M } }], // prettier-ignore
    animations: [{ name, samplers: lists.slice(1).map((_, i) => sampler(i + 1)), channels: [channel(0, 'translation'), channel(1, 'rotation'), ...(zooms ? [pointer] : [])] }], // prettier-ignore
    accessors: accessors.map((a) => a.accessor),
    bufferViews: accessors.map((a) => a.view),
    buffers: [{ byteLength: at, uri: `data:application/octet-stream;base64,${base64(lists)}` }],
  }
  return {
    json: JSON.stringify(json),
    warnings: [
      ...(zooms ? ['The focal length changes: programs without KHR_animation_pointer keep the first one.'] : []),
      ...(shifts ? ['Cameras of glTF have no rise and no cross: the picture is centred on the axis there.'] : []),
    ],
  }
}
function base64(lists: readonly (readonly number[])[]): string {
  const bytes = new Uint8Array(Float32Array.from(lists.flat()).buffer)
  let text = ''
  for (let i = 0; i < bytes.length; i += 8192) text += String.fromCharCode(...bytes.subarray(i, i + 8192))
  return btoa(text)
}
