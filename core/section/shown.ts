// What does the picture show?
// Model: one value, handed to every ray, pick, walk, fit, check, drawing and shader: which objects are hidden, and what is cut away.
// The near and far cut go with the camera: they bound a sight line by its depth along the axis.

import { axesOf, type Camera, formOf, isParallel, type Ray, rayThrough } from '../camera/index.ts'
import { addScaled, dot, scale } from '../math/index.ts'
import type { ObjectMoved } from '../reel/objects.ts'
import type { Cut } from './cuts.ts'

export interface Shown {
  /** Ids of hidden objects; what lies below them is hidden too. */
  readonly hidden: readonly string[]
  /** Objects that stand elsewhere than in their file, with all below them: in pictures and drawings, and for rays. */
  readonly moved?: readonly ObjectMoved[]
  /** Whether what is hidden goes on casting the sun's shadow. */
  readonly shadows?: 'kept'
  readonly cuts: {
    /** Nothing nearer than this along the axis is seen, metres; null without a near cut. */
    readonly nearM: number | null
    /** Nothing farther than this along the axis is seen, metres; null without a far cut. */
    readonly farM: number | null
    /** Only those that are on. */
    readonly list: readonly Cut[]
    /** Objects that no cut of the list takes anything from, with all below them. */
    readonly whole?: readonly string[]
    /** Gaps of open surfaces up to this are closed, metres. */
    readonly closeM?: number
    /** What is cut away casts no shadow and lets the light in. */
    readonly lightIn?: boolean
    /** How cut faces look; `open` where nothing is said. */
    readonly face?: FaceStyle
    /** Distance of hatching lines; left out, 2 mm on paper where the picture has a scale, else by the size of the model. */
    readonly hatch?: Spacing
    /** Width of the outlines; left out, as `OUTLINE` says. */
    readonly outline?: OutlineWeight
    /** What is cut away is drawn as faint lines. */
    readonly ghost?: true
  }
}
/** On paper: millimetres, where the picture has a scale; on the model: metres. */
export type Spacing = { readonly paperMm: number } | { readonly modelM: number }
export interface OutlineWeight {
  /** At least so wide on the screen, pixels. */
  readonly screenPx: number
  /** In print, millimetres. */
  readonly printMm: number
}
/** A wide line in print (iso128-2); never thinner than this on the screen. */
export const OUTLINE: OutlineWeight = { screenPx: 1.4, printMm: 0.5 }
/** Open: none; filled: each in its object's own colour; hatched; solid: one dark tone. */
export type FaceStyle = 'open' | 'filled' | 'hatched' | 'solid'
export const ALL_SHOWN: Shown = { hidden: [], cuts: { nearM: null, farM: null, list: [] } }

/** A stretch of a ray: what is asked lies between its ends. */
export interface Sight extends Ray {
  /** Metres from the origin to the end; Infinity without a far cut. */
  readonly farM: number
}
/** Parallel pictures begin far behind their plane. */
const BEHIND_M = 1e4

/** A picture ray from where the picture begins (the near cut, when there is one) to where it ends (the far cut). */
export function sightAlong(camera: Camera, ray: Ray, { cuts }: Shown): Sight {
  const { nearM, farM } = cuts
  const { forward } = axesOf(camera.pose)
  // depth along the axis grows evenly along the ray, from nought in the station's plane
  const rate = dot(ray.direction, forward)
  if (rate <= 1e-9) return { ...ray, farM: Infinity }
  const from = nearM !== null ? nearM / rate : isParallel(camera) ? -BEHIND_M : 0
  const to = farM === null ? Infinity : farM / rate
  return {
    origin: from === 0 ? ray.origin : addScaled(ray.origin, ray.direction, from),
    direction: ray.direction,
    farM: Math.max(0, to - from),
  }
}

/** What is seen through a picture point; null outside the picture form. */
export function sightThrough(camera: Camera, shown: Shown, xPx: number, yPx: number): Sight | null {
  const ray = rayThrough(camera, xPx, yPx)
  return ray && sightAlong(camera, ray, shown)
}
/** Whether a depth along the axis, metres, lies between near and far cut. */
export const isBetweenCuts = ({ cuts: { nearM, farM } }: Shown, depthM: number): boolean =>
  (nearM === null || depthM >= nearM) && (farM === null || depthM <= farM)

/** Id of the near cut among the cut faces. */
export const NEAR_CUT = 'near'
/** The near cut of a camera as a plane that takes away what lies before it; null without one, or where it has no plane. */
export function nearPlane(camera: Camera, { cuts: { nearM } }: Shown): Cut | null {
  if (nearM === null || !formOf(camera).isPlane) return null
  const { forward } = axesOf(camera.pose)
  const point = addScaled(camera.pose.station, forward, nearM)
  return { id: NEAR_CUT, name: NEAR_CUT, on: true, reversed: false, kind: 'free', point, normal: scale(forward, -1) }
}

/**
 * What is seen through a picture point, its near cut as a plane like any other: sight lines begin where the picture does without one, and
 * meet the face that the near cut lays open. Null outside the picture form.
 */
export function seenThrough(
  camera: Camera,
  shown: Shown,
  xPx: number,
  yPx: number,
): { readonly sight: Sight; readonly shown: Shown } | null {
  const near = nearPlane(camera, shown)
  const open = near ? { ...shown, cuts: { ...shown.cuts, nearM: null, list: [...shown.cuts.list, near] } } : shown
  const sight = sightThrough(camera, open, xPx, yPx)
  return sight && { sight, shown: open }
}
