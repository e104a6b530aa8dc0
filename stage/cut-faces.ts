// Cut faces in the picture: the geometry worker's polygons, drawn into the buffer of facts with the surfaces, flat or in their own colour,
// with their outlines.

import {
  BufferAttribute,
  BufferGeometry,
  DoubleSide,
  GLSL3,
  Mesh,
  NoBlending,
  Scene,
  ShaderMaterial,
  Vector2,
  Vector3,
  Vector4,
  type Camera as ThreeCamera,
  type WebGLRenderer,
} from 'three'
import type { Vec3 } from '#core/math'
import { HATCHES, MATERIAL_CLASSES, type FaceStyle } from '#core/section'
import type { FaceMesh } from '#mesh'
import type { Uniforms } from './light-uniforms.ts'
import { linearOf } from './flat-tone.ts'

/** A roughness no surface has: drawn flat, as it is. */
export const FLAT_ROUGHNESS = 4
/** On the screen, sRGB: ink and paper of cut faces. */
const INK: Vec3 = [0.14, 0.15, 0.17]
const PAPER: Vec3 = [0.93, 0.92, 0.9]

const VERTEX = /* glsl */ `
in float hatch;
in vec3 tint;
out vec3 vWorld;
out vec3 vNormalW;
out vec3 vTint;
out float vHatch;
out vec3 vNormal;
void main() {
  vWorld = position;
  vNormalW = normal;
  vTint = tint;
  vHatch = hatch;
  vNormal = mat3(viewMatrix) * normal;
  gl_Position = projectionMatrix * viewMatrix * vec4(position, 1.0);
}
`
/** What is drawn flat is told as it is. */
const FLAT = /* glsl */ `
vec4 flatColour(vec3 c) { return vec4(sqrt(c), 0.0); }
`
const FRAGMENT = /* glsl */ `
#define CLASSES ${MATERIAL_CLASSES.length}
in vec3 vWorld;
in vec3 vNormalW;
in vec3 vTint;
in float vHatch;
in vec3 vNormal;
layout(location = 0) out vec4 outColour;
layout(location = 1) out vec4 outNormal;
uniform int uStyle;
uniform vec3 uInk, uPaper;
// metres between the lines of the hatching, and the width of a line in shares of it
uniform vec2 uHatch;
// two sets of lines a class: angle, spacing (none: 0), offset, nought; ink and period of their dashes
uniform vec4 uLines[CLASSES * 2];
uniform vec2 uDashes[CLASSES * 2];
// how much of a pixel is line; too fine to be seen as lines it is their mean
float inkOf(float at, float share) {
  float wide = max(fwidth(at), 1e-6);
  float ink = clamp((share * 0.5 - abs(fract(at) - 0.5)) / wide + 0.5, 0.0, 1.0);
  return mix(ink, share, clamp(wide * 2.0 - 1.0, 0.0, 1.0));
}
${FLAT}
void main() {
  if (uStyle == 1) {
    outColour = vec4(sqrt(clamp(vTint, 0.0, 1.0)), 0.0);
    outNormal = vec4(normalize(vNormal), 0.9);
    return;
  }
  vec3 c = uInk;
  if (uStyle == 2) {
    vec3 n = normalize(vNormalW);
    vec3 right = abs(n.z) > 0.9999 ? vec3(1.0, 0.0, 0.0) : normalize(cross(vec3(0.0, 0.0, 1.0), n));
    vec3 up = cross(n, right);
    int hatch = int(vHatch + 0.5);
    vec2 p = vec2((hatch & 1) == 1 ? -1.0 : 1.0, 1.0) * vec2(dot(vWorld, right), dot(vWorld, up)) / uHatch.x;
    float ink = 0.0;
    for (int k = 0; k < 2; k++) {
      vec4 set = uLines[(hatch >> 1) * 2 + k];
      if (set.y <= 0.0) continue;
      vec2 along = vec2(cos(set.x), sin(set.x));
      float line = inkOf(dot(p, vec2(-along.y, along.x)) / set.y + set.z, uHatch.y / set.y);
      vec2 dash = uDashes[(hatch >> 1) * 2 + k];
      if (dash.y > 0.0) line *= inkOf(dot(p, along) / dash.y, dash.x / dash.y);
      ink = max(ink, line);
    }
    c = mix(uPaper, uInk, ink);
  }
  outColour = flatColour(c);
  outNormal = vec4(normalize(vNormal), ${FLAT_ROUGHNESS}.0);
}
`
/** Each line is a strip of constant width on the screen, a hair nearer than the face. */
const LINE_VERTEX = /* glsl */ `
in vec3 other;
in float side;
out vec3 vNormal;
uniform vec2 uPixel;
uniform float uWidthPx;
void main() {
  vec4 a = projectionMatrix * viewMatrix * vec4(position, 1.0);
  vec4 b = projectionMatrix * viewMatrix * vec4(other, 1.0);
  vNormal = mat3(viewMatrix) * normal;
  // ends behind the eye are brought before it
  float near = 1e-3;
  if (a.w < near && b.w > near) a = mix(b, a, (b.w - near) / (b.w - a.w));
  if (b.w < near && a.w > near) b = mix(a, b, (a.w - near) / (a.w - b.w));
  vec2 way = (b.xy / b.w - a.xy / a.w) / uPixel;
  float l = length(way);
  vec2 across = l > 1e-6 ? vec2(-way.y, way.x) / l : vec2(0.0);
  // the other end has the other way: a positive side is always the same one
  a.xy += across * side * uWidthPx * 0.5 * uPixel * a.w;
  a.z -= 2e-5 * a.w;
  gl_Position = a;
}
`
const LINE_FRAGMENT = /* glsl */ `
in vec3 vNormal;
layout(location = 0) out vec4 outColour;
layout(location = 1) out vec4 outNormal;
uniform vec3 uInk;
${FLAT}
void main() {
  outColour = flatColour(uInk);
  outNormal = vec4(normalize(vNormal), ${FLAT_ROUGHNESS}.0);
}
`
/** Ink of a hatching line in shares of the distance. */
const LINE_SHARE = 0.12
function hatchUniforms(): Uniforms {
  const sets = MATERIAL_CLASSES.flatMap((c) => [HATCHES[c][0], HATCHES[c][1]])
  return {
    uLines: { value: sets.map((s) => (s ? new Vector4((s.angleDeg * Math.PI) / 180, s.spacing, s.offset, 0) : new Vector4())) }, // prettier-ignore
    uDashes: { value: sets.map((s) => new Vector2(...(s?.dash ?? [0, 0]))) },
  }
}
const STYLES = { open: 0, filled: 1, hatched: 2, solid: 3 } as const satisfies Record<FaceStyle, number>

export interface DrawnFaces {
  readonly faces: BufferGeometry
  readonly lines: BufferGeometry
}

export class CutFacePass {
  private readonly scene = new Scene()
  private readonly shared: Uniforms = {
    uInk: { value: new Vector3(...linearOf(INK)) },
    uPaper: { value: new Vector3(...linearOf(PAPER)) },
  }
  private readonly material = this.made(VERTEX, FRAGMENT, { uStyle: { value: 3 }, uHatch: { value: new Vector2(0.06, 0.12) }, ...hatchUniforms() }) // prettier-ignore
  private readonly line = this.made(LINE_VERTEX, LINE_FRAGMENT, { uPixel: { value: new Vector2() }, uWidthPx: { value: 1 } }) // prettier-ignore
  private readonly mesh = new Mesh(new BufferGeometry(), this.material)
  private readonly strips = new Mesh(new BufferGeometry(), this.line)

  constructor() {
    this.scene.add(this.mesh, this.strips)
    for (const o of [this.mesh, this.strips]) {
      o.frustumCulled = false
      o.matrixAutoUpdate = false
    }
    // coplanar surfaces of what stays give way
    Object.assign(this.material, { polygonOffset: true, polygonOffsetFactor: -1, polygonOffsetUnits: -2 })
  }
  private made(vertexShader: string, fragmentShader: string, uniforms: Uniforms): ShaderMaterial {
    return new ShaderMaterial({
      ...{ glslVersion: GLSL3, vertexShader, fragmentShader, side: DoubleSide, blending: NoBlending },
      uniforms: { ...this.shared, ...uniforms },
    })
  }

  /** Draws into the present target, which holds the surfaces and their depth. `lineMm` is the outline's width in pixels of it. */
  draw(
    renderer: WebGLRenderer,
    eye: ThreeCamera,
    { faces, lines }: DrawnFaces,
    look: {
      style: FaceStyle
      size: { width: number; height: number }
      linePx: number
      hatchM: number
    },
  ): void {
    const { style, size, linePx, hatchM } = look
    this.material.uniforms['uStyle']!.value = STYLES[style]
    ;(this.material.uniforms['uHatch']!.value as Vector2).set(hatchM, LINE_SHARE)
    ;(this.line.uniforms['uPixel']!.value as Vector2).set(2 / size.width, 2 / size.height)
    this.line.uniforms['uWidthPx']!.value = linePx
    this.mesh.geometry = faces
    this.strips.geometry = lines
    this.mesh.visible = faces.getAttribute('position').count > 0
    this.strips.visible = lines.getAttribute('position').count > 0
    if (this.mesh.visible || this.strips.visible) renderer.render(this.scene, eye)
  }
  dispose(): void {
    this.material.dispose()
    this.line.dispose()
  }
}

/** Geometries of the faces and of their outlines, strips of two triangles. */
export function drawnFaces(m: FaceMesh): DrawnFaces {
  const faces = new BufferGeometry()
  faces.setAttribute('position', new BufferAttribute(m.positions, 3))
  faces.setAttribute('normal', new BufferAttribute(m.normals, 3))
  faces.setAttribute('tint', new BufferAttribute(m.colours, 3))
  faces.setAttribute('hatch', new BufferAttribute(m.hatches, 1))
  const n = m.outlines.length / 6
  const [position, other, normal] = [new Float32Array(n * 12), new Float32Array(n * 12), new Float32Array(n * 12)]
  const side = new Float32Array(n * 4)
  const index = new Uint32Array(n * 6)
  for (let i = 0; i < n; i++) {
    for (let k = 0; k < 4; k++) {
      const [own, far] = k < 2 ? [i * 6, i * 6 + 3] : [i * 6 + 3, i * 6]
      for (let c = 0; c < 3; c++) {
        position[(i * 4 + k) * 3 + c] = m.outlines[own + c]!
        other[(i * 4 + k) * 3 + c] = m.outlines[far + c]!
        normal[(i * 4 + k) * 3 + c] = m.outlineNormals[own + c]!
      }
      side[i * 4 + k] = k % 2 === 0 ? 1 : -1
    }
    // from its other end a strip's left is its right
    index.set([0, 1, 2, 0, 2, 3].map((k) => i * 4 + k), i * 6) // prettier-ignore
  }
  const lines = new BufferGeometry()
  lines.setAttribute('position', new BufferAttribute(position, 3))
  lines.setAttribute('other', new BufferAttribute(other, 3))
  lines.setAttribute('normal', new BufferAttribute(normal, 3))
  lines.setAttribute('side', new BufferAttribute(side, 1))
  lines.setIndex(new BufferAttribute(index, 1))
  return { faces, lines }
}
