// What a hand does on the photograph: new lines, ends moved, points, a scale, measures, masks. All are shown while they are dragged and
// become one edit at the end; Esc lets them go.

import { createSharedComposable } from '@vueuse/core'
import { ref, shallowRef } from 'vue'
import type { PicturePlace } from '#core/match'
import type { Vec3 } from '#core/math'
import { MATCH_LIMITS, type PhotoMatchPart } from '#model'
import { startDrag } from '../controls/drag.ts'
import { useNotices } from '../stores/notices.ts'
import { newId } from '../stores/project.ts'
import { useMatch } from './match.ts'
import { useOpenedPhoto } from './opened.ts'
import { createScaling } from './scaling.ts'
import { usePhotoTools, type Chosen } from './tools.ts'

/** Shorter than this on the screen is a click. */
const SHORT_PX = 6
/** An edge is looked for within this on the screen. */
const REACH_PX = 8
/** A new mask's edge is so soft, pixels of the photograph. */
const SOFT_PX = 3

/** What a measure begins on. */
export interface Surface {
  readonly point: Vec3
  readonly normal: Vec3
}
export interface Handle {
  readonly at: PicturePlace
  /** The match with this place moved. */
  readonly moved: (m: PhotoMatchPart, to: PicturePlace) => PhotoMatchPart
  readonly chosen: Chosen | null
  readonly label: string
}

/** Whether a list takes one more; told where not. */
function useRoom() {
  const notices = useNotices()
  function hasRoom(list: keyof typeof MATCH_LIMITS, now: number): boolean {
    if (now < MATCH_LIMITS[list]) return true
    notices.say(`There is room for ${MATCH_LIMITS[list]} of these.`, 'warning')
    return false
  }
  return hasRoom
}
/** Lines; each is one edit. */
function createLines() {
  const { match, change } = useMatch()
  const { client } = useOpenedPhoto()
  const { bundleId, chosen, snaps } = usePhotoTools()
  const hasRoom = useRoom()
  /** Onto the edge near it, where snapping is on and there is one. */
  async function snapped(a: PicturePlace, b: PicturePlace, k: number): Promise<readonly [PicturePlace, PicturePlace]> {
    if (!snaps.value) return [a, b]
    const r = await client.value?.refine(a, b, REACH_PX / k).catch(() => null)
    return r ? [r.a, r.b] : [a, b]
  }
  /** A new line of the chosen bundle. */
  async function addLine(a: PicturePlace, b: PicturePlace, k: number): Promise<void> {
    const id = newId()
    const bundle = bundleId.value
    const [p, q] = await snapped(a, b, k)
    if (!match.value || !bundle || !hasRoom('lines', match.value.lines.length)) return
    change({ lines: [...match.value.lines, { id, bundleId: bundle, points: [p, q] }] })
    chosen.value = { kind: 'line', id }
  }
  /** One more place of a line that the lens bends, where it lies along it. */
  function bendLine(id: string, place: PicturePlace): void {
    const m = match.value
    const line = m?.lines.find((l) => l.id === id)
    if (!m || !line || line.points.length >= MATCH_LIMITS.places) return
    const [a, b] = [line.points[0]!, line.points.at(-1)!]
    const along = (p: PicturePlace): number => (p[0] - a[0]) * (b[0] - a[0]) + (p[1] - a[1]) * (b[1] - a[1])
    const points = [...line.points, place].sort((p, q) => along(p) - along(q))
    change({ lines: m.lines.map((l) => (l === line ? { ...l, points } : l)) })
  }
  return { addLine, bendLine }
}
/** What else is put on the photograph; each is one edit. */
function createPutting() {
  const { match, change } = useMatch()
  const { bundleId, chosen } = usePhotoTools()
  const hasRoom = useRoom()

  function addMeasure(from: PicturePlace, to: PicturePlace, on: Surface | null): void {
    const m = match.value
    if (!m || !bundleId.value || !hasRoom('measures', m.measures?.length ?? 0)) return
    const id = newId()
    change({ measures: [...(m.measures ?? []), { id, bundleId: bundleId.value, from, to, ...(on && { on }) }] })
    chosen.value = { kind: 'measure', id }
  }
  function addPair(world: readonly [number, number, number], image: PicturePlace): void {
    const m = match.value
    if (!m || !hasRoom('pairs', m.pairs.length)) return
    const id = newId()
    if (change({ pairs: [...m.pairs, { id, world, image }] })) chosen.value = { kind: 'pair', id }
  }
  function addMask(points: readonly PicturePlace[]): void {
    const m = match.value
    if (!m || points.length < 3 || !hasRoom('masks', m.masks?.length ?? 0)) return
    const id = newId()
    change({ masks: [...(m.masks ?? []), { id, points, softPx: SOFT_PX }] })
    chosen.value = { kind: 'mask', id }
  }
  /** What is chosen is taken out; undo brings it back. */
  function remove(what: Chosen): void {
    const m = match.value
    if (!m) return
    const list = ({ line: 'lines', pair: 'pairs', measure: 'measures', mask: 'masks' } as const)[what.kind]
    change({ [list]: (m[list] ?? []).filter((x: { readonly id: string }) => x.id !== what.id) })
    if (chosen.value?.id === what.id) chosen.value = null
  }
  return { ...createLines(), addMeasure, addPair, addMask, remove, ...createScaling() }
}
function drawing() {
  const { match, show, cancel, put } = useMatch()
  const { chosen } = usePhotoTools()
  const putting = createPutting()
  /** Where a hand is at work: the loupe shows it. */
  const loupe = shallowRef<PicturePlace | null>(null)
  /** A line that is being drawn. */
  const drawn = shallowRef<{ readonly from: PicturePlace; readonly to: PicturePlace } | null>(null)
  /** Corners of a mask that is being drawn. */
  const outline = ref<PicturePlace[]>([])
  function endMask(): void {
    putting.addMask(outline.value)
    outline.value = []
  }

  /** Drags a straight stroke from a place; `done` gets its end, or null for a click. */
  function stroke(e: PointerEvent, from: PicturePlace, k: number, done: (to: PicturePlace | null) => unknown): void {
    loupe.value = from
    const clear = (): void => void (loupe.value = drawn.value = null)
    startDrag(e, {
      move: (dx, dy) => {
        const to: PicturePlace = [from[0] + dx / k, from[1] + dy / k]
        loupe.value = to
        drawn.value = { from, to }
      },
      end: () => {
        const to = drawn.value?.to
        clear()
        void done(to && Math.hypot(to[0] - from[0], to[1] - from[1]) * k >= SHORT_PX ? to : null)
      },
      cancel: clear,
    })
  }
  /** Moves what a handle holds; with Alt a tenth as far. */
  function drag(e: PointerEvent, handle: Handle, k: number): void {
    const m = match.value
    if (!m) return
    chosen.value = handle.chosen
    loupe.value = handle.at
    let last = m
    startDrag(e, {
      move: (dx, dy, p) => {
        const slow = p.altKey ? 0.1 : 1
        const to: PicturePlace = [handle.at[0] + (dx * slow) / k, handle.at[1] + (dy * slow) / k]
        loupe.value = to
        last = handle.moved(m, to)
        show(last)
      },
      end: (moved) => {
        loupe.value = null
        void (moved ? put(last) : cancel())
      },
      cancel: () => {
        loupe.value = null
        cancel()
      },
    })
  }
  return { ...putting, loupe, drawn, outline, endMask, stroke, drag }
}
export const useDrawing = createSharedComposable(drawing)
