// Where in the picture does a world point fall, and what ray leaves through a picture point?
// Space: world metres <-> picture pixels. Source: handbook-0, 1, 3 and 4; gl21 (glFrustum, glOrtho); kingslake1992 (fisheye).

import { cosDeg, RAD_PER_DEG, requireNumber, sinDeg } from '../base/index.ts'
import { addScaled, normalize, scale, type Vec3 } from '../math/index.ts'
import { usedSensor } from './lens.ts'
import { axesOf, toCamera } from './pose.ts'
import type { Camera, Matrix16, PicturePoint, Ray } from './types.ts'

/** Where the axis meets the picture, pixels: moved by rise and cross. */
export function principalPointPx(camera: Camera): { xPx: number; yPx: number; pxPerMm: number } {
  const { lens, frame } = camera
  const pxPerMm = frame.widthPx / usedSensor(lens, frame).widthMm
  return {
    xPx: frame.widthPx / 2 - lens.crossMm * pxPerMm,
    yPx: frame.heightPx / 2 + lens.riseMm * pxPerMm,
    pxPerMm,
  }
}

/** The receding shear of an oblique projection per metre of depth; zero for parallel. */
function shearOf(p: Camera['lens']['projection']): { x: number; y: number } {
  return p.kind === 'oblique'
    ? { x: p.receding * cosDeg(p.angleDeg), y: p.receding * sinDeg(p.angleDeg) }
    : { x: 0, y: 0 }
}

/**
 * Column-major matrix taking camera space to OpenGL clip space (z -1..1) for perspective, parallel and oblique cameras.
 * nearM > 0 in perspective; parallel and oblique depths may be negative. RangeError for panoramic forms.
 */
export function clipFromCamera(camera: Camera, clip: { readonly nearM: number; readonly farM: number }): Matrix16 {
  const { lens, frame } = camera
  const { nearM: n, farM: f } = clip
  const { widthMm: w, heightMm: h } = usedSensor(lens, frame)
  const p = lens.projection
  if (p.kind === 'perspective') {
    requireNumber('clipFromCamera', 'nearM', n, Number.MIN_VALUE)
    requireNumber('clipFromCamera', 'farM', f, n)
    // prettier-ignore
    return [
      (2 * lens.focalMm) / w, 0, 0, 0,
      0, (2 * lens.focalMm) / h, 0, 0,
      (2 * lens.crossMm) / w, (2 * lens.riseMm) / h, -(f + n) / (f - n), -1,
      0, 0, (-2 * f * n) / (f - n), 0,
    ]
  }
  if (p.kind === 'parallel' || p.kind === 'oblique') {
    const sx = 2 / p.widthM
    const sy = (2 * (frame.widthPx / frame.heightPx)) / p.widthM
    const shear = shearOf(p)
    // prettier-ignore
    return [
      sx, 0, 0, 0,
      0, sy, 0, 0,
      -shear.x * sx, -shear.y * sy, -2 / (f - n), 0,
      (-2 * lens.crossMm) / w, (-2 * lens.riseMm) / h, -(f + n) / (f - n), 1,
    ]
  }
  throw new RangeError(`clipFromCamera: projection = ${p.kind} has no matrix; it is resampled from a cube map`)
}

/**
 * The picture point of a world point, with its depth in metres (along the axis; along the ray in panoramic forms). Null only
 * where no picture point exists: behind a perspective camera, outside a fisheye's coverage, at the station itself.
 */
export function projectPoint(camera: Camera, point: Vec3): PicturePoint | null {
  const [x, y, z] = toCamera(camera.pose, point)
  const { lens, frame } = camera
  const p = lens.projection
  const { xPx: cx, yPx: cy, pxPerMm } = principalPointPx(camera)
  const depth = -z
  switch (p.kind) {
    case 'perspective': {
      if (!(depth > 0)) return null
      const k = (lens.focalMm * pxPerMm) / depth
      return { xPx: cx + x * k, yPx: cy - y * k, depthM: depth }
    }
    case 'parallel':
    case 'oblique': {
      const k = frame.widthPx / p.widthM
      const s = shearOf(p)
      return { xPx: cx + (x + s.x * depth) * k, yPx: cy - (y + s.y * depth) * k, depthM: depth }
    }
    case 'equirectangular': {
      const away = Math.hypot(x, y, z)
      if (away === 0) return null
      const pxPerRad = frame.widthPx / (2 * Math.PI)
      const lon = Math.atan2(x, depth)
      const lat = Math.atan2(y, Math.hypot(x, z))
      return { xPx: frame.widthPx / 2 + lon * pxPerRad, yPx: frame.heightPx / 2 - lat * pxPerRad, depthM: away }
    }
    case 'cylindrical': {
      const flat = Math.hypot(x, z)
      if (flat === 0) return null
      const rho = frame.widthPx / (p.horizontalDeg * RAD_PER_DEG)
      return {
        xPx: frame.widthPx / 2 + rho * Math.atan2(x, depth),
        yPx: frame.heightPx / 2 + lens.riseMm * pxPerMm - (rho * y) / flat,
        depthM: Math.hypot(x, y, z),
      }
    }
    case 'fisheye': {
      const off = Math.hypot(x, y)
      const theta = Math.atan2(off, depth)
      const half = (p.coverageDeg * RAD_PER_DEG) / 2
      const away = Math.hypot(x, y, z)
      if (away === 0 || theta > half + 1e-12) return null
      const r = ((Math.min(frame.widthPx, frame.heightPx) / 2) * mapTheta(p.mapping, theta)) / mapTheta(p.mapping, half)
      const k = off === 0 ? 0 : r / off
      return { xPx: frame.widthPx / 2 + x * k, yPx: frame.heightPx / 2 - y * k, depthM: away }
    }
  }
}

/** Radius of a fisheye image for k = 1, at theta radians off the axis. */
function mapTheta(mapping: 'equidistant' | 'equisolid' | 'stereographic', theta: number): number {
  if (mapping === 'equidistant') return theta
  return mapping === 'equisolid' ? 2 * Math.sin(theta / 2) : 2 * Math.tan(theta / 2)
}
function unmapRadius(mapping: 'equidistant' | 'equisolid' | 'stereographic', r: number): number {
  if (mapping === 'equidistant') return r
  return mapping === 'equisolid' ? 2 * Math.asin(Math.min(1, r / 2)) : 2 * Math.atan(r / 2)
}

/**
 * The ray through a picture point, direction of unit length. Parallel and oblique rays start in the plane through the
 * station; the others at the station. Null outside a fisheye's circle or beyond the poles of an equirectangular picture.
 */
export function rayThrough(camera: Camera, xPx: number, yPx: number): Ray | null {
  const { pose, lens, frame } = camera
  const p = lens.projection
  const { right, up, forward } = axesOf(pose)
  const world = (x: number, y: number, depth: number): Vec3 =>
    addScaled(addScaled(scale(right, x), up, y), forward, depth)
  const { xPx: cx, yPx: cy, pxPerMm } = principalPointPx(camera)
  const station = pose.station
  switch (p.kind) {
    case 'perspective':
      return { origin: station, direction: normalize(world((xPx - cx) / pxPerMm, (cy - yPx) / pxPerMm, lens.focalMm)) }
    case 'parallel':
    case 'oblique': {
      const mPerPx = p.widthM / frame.widthPx
      const s = shearOf(p)
      const origin = addScaled(addScaled(station, right, (xPx - cx) * mPerPx), up, (cy - yPx) * mPerPx)
      return { origin, direction: normalize(world(-s.x, -s.y, 1)) }
    }
    case 'equirectangular': {
      const radPerPx = (2 * Math.PI) / frame.widthPx
      const lon = (xPx - frame.widthPx / 2) * radPerPx
      const lat = (frame.heightPx / 2 - yPx) * radPerPx
      if (Math.abs(lat) > Math.PI / 2 + 1e-12) return null
      const c = Math.cos(lat)
      return { origin: station, direction: normalize(world(Math.sin(lon) * c, Math.sin(lat), Math.cos(lon) * c)) }
    }
    case 'cylindrical': {
      const rho = frame.widthPx / (p.horizontalDeg * RAD_PER_DEG)
      const lambda = (xPx - frame.widthPx / 2) / rho
      const t = (frame.heightPx / 2 + lens.riseMm * pxPerMm - yPx) / rho
      return { origin: station, direction: normalize(world(Math.sin(lambda), t, Math.cos(lambda))) }
    }
    case 'fisheye': {
      const dx = xPx - frame.widthPx / 2
      const dy = frame.heightPx / 2 - yPx
      const half = (p.coverageDeg * RAD_PER_DEG) / 2
      const r = Math.hypot(dx, dy)
      const scaled = (r / (Math.min(frame.widthPx, frame.heightPx) / 2)) * mapTheta(p.mapping, half)
      const theta = unmapRadius(p.mapping, scaled)
      if (r > Math.min(frame.widthPx, frame.heightPx) / 2 + 1e-9) return null
      const k = r === 0 ? 0 : Math.sin(theta) / r
      return { origin: station, direction: normalize(world(dx * k, dy * k, Math.cos(theta))) }
    }
  }
}

/** The horizon's line in the picture at the left and right edge, pixels; null where it does not cross as a straight line. */
export function horizonPx(camera: Camera): { readonly leftPx: number; readonly rightPx: number } | null {
  const { lens, frame, pose } = camera
  if (lens.projection.kind !== 'perspective') return null
  const { right, up, forward } = axesOf(pose)
  // points with zero vertical part: right.z X + up.z Y + forward.z f = 0, X and Y on the sensor from the principal point
  if (Math.abs(up[2]) < 1e-9) return null
  const { xPx: cx, yPx: cy, pxPerMm } = principalPointPx(camera)
  const at = (xPx: number): number => {
    const X = (xPx - cx) / pxPerMm
    return cy + ((right[2] * X + forward[2] * lens.focalMm) / up[2]) * pxPerMm
  }
  return { leftPx: at(0), rightPx: at(frame.widthPx) }
}

/** World width of the picture at a depth along the axis, metres (parallel forms: everywhere the same). */
export function widthAtDepthM(camera: Camera, depthM: number): number {
  const p = camera.lens.projection
  if (p.kind === 'parallel' || p.kind === 'oblique') return p.widthM
  return (usedSensor(camera.lens, camera.frame).widthMm * depthM) / camera.lens.focalMm
}
