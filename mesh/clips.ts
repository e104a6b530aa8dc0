// Which clips do a scene's models bring with them, and where do they take hold?
// Model: whoever reads a file keeps its clips beside the root, each track with the object it moves; ids and places are told when the scene is
// assembled and placed. Space: the scene's metres.
import type { Matrix4, Object3D } from 'three'
import { affineInverse, affineOf, affineProduct, type Vec3 } from '#core/math'
import type { ClipNode, ClipTrack, ModelClip } from '#core/reel'

/** A clip as its file has it. */
export interface ReadClip {
  readonly name: string
  readonly tracks: readonly (ClipTrack & { readonly object: Object3D })[]
}
const kept = new WeakMap<Object3D, readonly ReadClip[]>()
export const keepClips = (root: Object3D, clips: readonly ReadClip[]): void => void kept.set(root, clips)

const rows = ({ elements: e }: Matrix4): number[] => [0, 1, 2].flatMap((r) => [e[r]!, e[r + 4]!, e[r + 8]!, e[r + 12]!])

/** Clips of all models below `scene`, whose ids are set and whose matrices hold. What moves nothing that can be moved is left out. */
export function clipsOf(scene: Object3D): readonly ModelClip[] {
  return scene.children.flatMap((root) =>
    (kept.get(root) ?? []).flatMap(({ name, tracks }): ModelClip[] => {
      const by = new Map<Object3D, ClipTrack[]>()
      for (const { object, ...track } of tracks) {
        const list = by.get(object)
        if (list) list.push(track)
        else by.set(object, [track])
      }
      const nodes = [...by].flatMap(([object, own]) => nodeOf(object, own))
      const durationS = Math.max(0, ...nodes.flatMap((n) => n.tracks.map((t) => t.timesS.at(-1)!)))
      return nodes.length > 0 ? [{ modelKey: root.name, name, durationS, nodes }] : []
    }),
  )
}
function nodeOf(object: Object3D, tracks: readonly ClipTrack[]): ClipNode[] {
  const { position: p, quaternion: q, scale: s } = object
  const rest = { translation: p.toArray() as Vec3, rotation: q.toArray() as readonly number[], scale: s.toArray() as Vec3 } // prettier-ignore
  // also of an object that was moved by itself: by what its file has
  const back = affineInverse(affineOf(rest.translation, rest.rotation, rest.scale))
  const id = object.userData['nodeId'] as string | undefined
  return back && id ? [{ objectId: id, above: affineProduct(rows(object.matrixWorld), back), rest, tracks }] : []
}
