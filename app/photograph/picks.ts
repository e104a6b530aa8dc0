// Corners of the model and places of the photograph, one for the other.
import { createSharedComposable } from '@vueuse/core'
import { shallowRef } from 'vue'
import { projectPoint, rayThrough } from '#core/camera'
import { sunOfShadow, type PicturePlace } from '#core/match'
import type { Vec3 } from '#core/math'
import type { Hit } from '#mesh'
import { useNotices } from '../stores/notices.ts'
import { useProject } from '../stores/project.ts'
import { useStage } from '../stores/stage.ts'
import { useView } from '../stores/view.ts'
import { useDrawing, type Surface } from './drawing.ts'
import { useMatch } from './match.ts'
import { usePhotoTools } from './tools.ts'

function picks() {
  const { camera } = useMatch()
  const { pendingWorld, tool } = usePhotoTools()
  /** Where the pointer is, over the photograph or over the model as the camera found sees it: both show it magnified. */
  const pointed = shallowRef<PicturePlace | null>(null)
  const { addPair } = useDrawing()
  const project = useProject()
  const stage = useStage()
  const notices = useNotices()

  /** A click in the photograph: the place of the corner that waits, else of the nearest corner that the camera found sees there. */
  async function placeInPhoto(place: PicturePlace, reachPx: number): Promise<void> {
    if (pendingWorld.value) {
      addPair(pendingWorld.value, place)
      pendingWorld.value = null
      return
    }
    if (!camera.value) {
      notices.say('Click the corner in the model first. Once the camera is found, the nearest corner is proposed here.')
      return
    }
    if (!isThere(stage, notices)) return
    const hit = await stage.rays.pickFeature(camera.value, place, 3 * reachPx, project.shown)
    if (!hit || hit.feature !== 'corner') {
      notices.say('No corner of the model lies near. Click the corner in the model first.')
      return
    }
    addPair(hit.point, place)
  }
  /** A corner of the model waits for its place; where the camera is known, it is shown where it is expected. */
  const begin = (world: Vec3): void => {
    pendingWorld.value = world
    tool.value = 'pair'
  }
  const expected = (): PicturePlace | null => {
    const at = pendingWorld.value && camera.value ? projectPoint(camera.value, pendingWorld.value) : null
    return at && [at.xPx, at.yPx]
  }

  return { placeInPhoto, begin, expected, pointed, ...createShadow(), ...createMeeting() }
}
/** What the camera found meets in the model. */
function createMeeting() {
  const { camera } = useMatch()
  const { measuresOn, overlay } = usePhotoTools()
  const project = useProject()
  const stage = useStage()
  const notices = useNotices()
  const view = useView()
  async function met(place: PicturePlace): Promise<Hit | null> {
    const ray = camera.value && rayThrough(camera.value, place[0], place[1])
    return ray ? stage.rays.pick(ray, project.shown) : null
  }
  /** The surface that a measure begins on, where it is the model's; null for the ground. */
  async function surfaceAt(place: PicturePlace): Promise<Surface | null> {
    if (measuresOn.value === 'ground') return null
    const hit = await met(place)
    if (!hit) notices.say('The model is not there: it begins on the ground.')
    return hit && { point: hit.point, normal: hit.normal }
  }
  /** Chooses the object that is seen at a place; with `more` it joins what is chosen, or leaves it. */
  async function chooseAt(place: PicturePlace, more: boolean): Promise<void> {
    if (!camera.value) return notices.say('Find the camera first: it tells what is seen where.')
    if (!isThere(stage, notices)) return
    const id = (await met(place))?.nodeId
    const now = view.selection
    if (!id) view.selection = more ? now : []
    else if (!more) view.selection = [id]
    else view.selection = now.includes(id) ? now.filter((x) => x !== id) : [...now, id]
    // what is chosen is seen by itself where nothing lies over the photograph yet
    if (id && overlay.value === 'none') overlay.value = 'chosen'
  }
  return { surfaceAt, chooseAt }
}
/** Whether rays are answered yet; said where not. */
function isThere(stage: ReturnType<typeof useStage>, notices: ReturnType<typeof useNotices>): boolean {
  if (stage.storeys.length > 0) return true
  notices.say('The model is still being read: in a moment it can be clicked.')
  return false
}
/** The sun from a shadow in the photograph. */
function createShadow() {
  const { match, camera } = useMatch()
  const project = useProject()
  const stage = useStage()
  const notices = useNotices()
  /** The top of a shadow that waits for its tip. */
  const top = shallowRef<Vec3 | null>(null)
  /** Top, then tip: where the sun stands. The tip lies on the model, or on the ground where the model is not. */
  async function shadowAt(place: PicturePlace, reachPx: number): Promise<void> {
    const c = camera.value
    if (!c) {
      notices.say('Find the camera first: without it a shadow tells nothing.', 'warning')
      return
    }
    if (!isThere(stage, notices)) return
    if (!top.value) {
      const hit = await stage.rays.pickFeature(c, place, 2 * reachPx, project.shown)
      if (!hit) notices.say('No part of the model is there. Click the top of something that throws a shadow.')
      else top.value = hit.point
      return
    }
    const ray = rayThrough(c, place[0], place[1])
    const met = ray && (await stage.rays.pick(ray, project.shown))
    const tip = met?.point ?? (ray && onGround(ray.origin, ray.direction, match.value?.scale?.at[2] ?? 0))
    const sun = tip && top.value && sunOfShadow(top.value, tip)
    top.value = null
    if (!sun) {
      notices.say('The tip has to lie below the top, on the model or on the ground.', 'warning')
      return
    }
    const now = project.working!.look.sun
    const { bearingDeg, elevationDeg } = sun
    const text = `The sun stands at ${bearingDeg.toFixed(1)}°, ${elevationDeg.toFixed(1)}° high.`
    if (project.run({ type: 'setPart', part: 'look.sun', value: { ...now, on: true, bearingDeg, elevationDeg } }))
      notices.say(text, 'plain', { label: 'Undo', run: project.undoOfThis() })
  }
  return { shadowAt, top }
}
function onGround(from: Vec3, d: Vec3, z: number): Vec3 | null {
  const t = (z - from[2]) / d[2]
  return t > 0 && Number.isFinite(t) ? [from[0] + t * d[0], from[1] + t * d[1], z] : null
}
export const usePicks = createSharedComposable(picks)
