// Which clips of node animation does a glTF file hold?
// Model: each channel of place, turn or size with its keys as numbers; weights of shapes move no node and are left out. What cannot be played
// (keys out of order, numbers that are none, clips beyond a bound) is left out, the rest stays. Source: gltf2 (animations).
import type { BufferAttribute, InterleavedBufferAttribute, Object3D } from 'three'
import type { ClipPath, ClipTrack } from '#core/reel'
import type { ReadClip } from '#mesh'

/** So many numbers in all clips of a file, and so many clips. */
const MOST_NUMBERS = 4e6
const MOST_CLIPS = 200
const PATHS: ReadonlySet<string> = new Set<ClipPath>(['translation', 'rotation', 'scale'])
const STEPS: ReadonlySet<string> = new Set<ClipTrack['steps']>(['LINEAR', 'STEP', 'CUBICSPLINE'])

interface AnimationJson {
  readonly name?: unknown
  readonly channels?: readonly { readonly sampler: number; readonly target: { readonly node?: number; readonly path: string } }[] // prettier-ignore
  readonly samplers?: readonly { readonly input: number; readonly output: number; readonly interpolation?: string }[]
}
/** What the loader has read already. */
export interface FileParts {
  readonly json: { readonly animations?: readonly AnimationJson[] }
  getDependency(type: 'node' | 'accessor', index: number): Promise<unknown>
}

export async function readClips(file: FileParts): Promise<readonly ReadClip[]> {
  const clips: ReadClip[] = []
  const seen = new Map<string, number>()
  let numbers = 0
  for (const a of (file.json.animations ?? []).slice(0, MOST_CLIPS)) {
    const tracks: ReadClip['tracks'][number][] = []
    for (const c of a.channels ?? []) {
      const track = await trackOf(file, a, c).catch(() => null)
      numbers += track?.values.length ?? 0
      if (track && numbers <= MOST_NUMBERS) tracks.push(track)
    }
    const base = (typeof a.name === 'string' && a.name.trim().slice(0, 150)) || 'Animation'
    const n = (seen.get(base) ?? 0) + 1
    seen.set(base, n)
    if (tracks.length > 0) clips.push({ name: n === 1 ? base : `${base}#${n}`, tracks })
  }
  return clips
}

async function trackOf(
  file: FileParts,
  { samplers = [] }: AnimationJson,
  { sampler, target }: NonNullable<AnimationJson['channels']>[number],
): Promise<ReadClip['tracks'][number] | null> {
  const s = samplers[sampler]
  const steps = s?.interpolation ?? 'LINEAR'
  if (!s || target.node === undefined || !PATHS.has(target.path) || !STEPS.has(steps)) return null
  const [object, input, output] = await Promise.all([
    file.getDependency('node', target.node),
    file.getDependency('accessor', s.input),
    file.getDependency('accessor', s.output),
  ])
  const path = target.path as ClipPath
  const width = path === 'rotation' ? 4 : 3
  const [timesS, values] = [numbersOf(input as BufferAttribute, 1), numbersOf(output as BufferAttribute, width)]
  const isInOrder = timesS.length > 0 && timesS.every((t, i) => t >= 0 && Number.isFinite(t) && (i === 0 || t > timesS[i - 1]!)) // prettier-ignore
  const wanted = timesS.length * width * (steps === 'CUBICSPLINE' ? 3 : 1)
  if (!isInOrder || values.length !== wanted || !values.every(Number.isFinite)) return null
  return { object: object as Object3D, path, steps: steps as ClipTrack['steps'], timesS, values }
}
/** An accessor's numbers; whole ones that stand for shares of one become these. */
function numbersOf(a: BufferAttribute | InterleavedBufferAttribute, width: number): Float32Array {
  if (a.itemSize !== width) return new Float32Array(0)
  const out = new Float32Array(a.count * width)
  for (let i = 0; i < a.count; i++) for (let k = 0; k < width; k++) out[i * width + k] = a.getComponent(i, k)
  return out
}
