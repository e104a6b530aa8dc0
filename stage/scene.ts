// The stage's three scene: for each mesh one material for the surface buffer (or for clear things) and one for drawings.

import {
  BufferGeometry,
  Color,
  CustomBlending,
  Data3DTexture,
  DataUtils,
  DoubleSide,
  FrontSide,
  GLSL3,
  HalfFloatType,
  LinearFilter,
  Matrix3,
  Mesh,
  MeshStandardMaterial,
  NoBlending,
  OneFactor,
  OneMinusSrcAlphaFactor,
  RGBAFormat,
  Scene,
  ShaderMaterial,
  SrcAlphaFactor,
  Texture,
  Vector2,
  Vector3,
  Vector4,
  ZeroFactor,
  type Material,
  type Object3D,
} from 'three'
import { withNormals } from './normals.ts'
import { longestEdge, withoutLongEdges } from './split.ts'
import { isHidden, isUnder, uvName, type LightVolume, type SceneFacts } from '#mesh'
import { CLEAR_FRAGMENT, SHADOW_FRAGMENT, SHADOW_VERTEX, SURFACE_FRAGMENT, SURFACE_VERTEX } from './shaders.ts'
import { DRAWING_FRAGMENT, DRAWING_VERTEX, WINDING_FRAGMENT } from './shaders-drawing.ts'

/** Triangles added at most where long ones are drawn in pieces. */
const MOST_PIECES = 200_000

export type Uniforms = Record<string, { value: unknown }>

interface MeshEntry {
  readonly mesh: Mesh
  readonly source: Material
  /** As the file has it (with normals), and as it is drawn: without long edges at this scale. */
  readonly geometry: BufferGeometry
  readonly drawn: BufferGeometry
  readonly longest: number
  readonly nodeId: string
  readonly finished: ShaderMaterial
  readonly shadow: ShaderMaterial
  readonly drawing: ShaderMaterial
  readonly winding: ShaderMaterial
  readonly clear: boolean
}
/** Which meshes take part in a pass. */
export type Pass = 'solid' | 'clear' | 'shadow' | 'drawing' | 'winding'

/** The material of an entry in each pass. */
const MATERIAL_OF = {
  solid: 'finished',
  clear: 'finished',
  shadow: 'shadow',
  drawing: 'drawing',
  winding: 'winding',
} as const satisfies Record<Pass, keyof MeshEntry>

/** Uniforms that lighting and clear materials share. */
const lightUniforms = (): Uniforms => ({
  uLightR: { value: flatVolume() },
  uLightG: { value: flatVolume() },
  uLightB: { value: flatVolume() },
  uLightOrigin: { value: new Vector3() },
  uLightStep: { value: new Vector3(1, 1, 1) },
  uLightSize: { value: new Vector3(1, 1, 1) },
  uLightScale: { value: 1 },
  uReach: { value: 0.3 },
  uSun: { value: new Vector3(0, 0, 1) },
  uSunColour: { value: new Color() },
  uShadow: { value: null },
  uShadowFromWorld: { value: null },
  uShadowOn: { value: 1 },
  uShadowTexelM: { value: 0.01 },
  uSeed: { value: 0 },
  uEnvironment: { value: null },
  uEnvironmentOn: { value: 0 },
  uDepth: { value: null },
  uInverseSize: { value: new Vector2(1, 1) },
})

function volumeTexture(data: Float32Array, size: readonly [number, number, number]): Data3DTexture {
  const half = new Uint16Array(data.length)
  for (let i = 0; i < data.length; i++) half[i] = DataUtils.toHalfFloat(Math.min(60_000, Math.max(-60_000, data[i]!)))
  const t = new Data3DTexture(half, ...size)
  t.format = RGBAFormat
  t.type = HalfFloatType
  t.minFilter = t.magFilter = LinearFilter
  t.needsUpdate = true
  return t
}
/** Before the light is baked: the same soft light everywhere, a little more from above. */
const flatVolume = (): Data3DTexture => volumeTexture(new Float32Array([1700, 0, 0, 500]), [1, 1, 1])

export class StageScene {
  readonly scene = new Scene()
  readonly light = lightUniforms()
  private readonly plainShadow = shadowMaterial({ defines: {}, uniforms: {} })
  private entries: MeshEntry[] = []
  private root: Object3D | null = null
  private hidden: readonly string[] = []
  readonly centre = new Vector3()
  radius = 1
  facts: SceneFacts | null = null
  /** Counts up with every change of the scene or its bounds. */
  revision = 0

  private readonly anisotropy: number

  /** Floors and walls seen at a slant keep their pattern at up to `anisotropy` readings of a map. */
  constructor(anisotropy = 1) {
    this.anisotropy = anisotropy
    this.scene.matrixAutoUpdate = false
    this.scene.matrixWorldAutoUpdate = false
  }

  /** Gives the meshes back their own materials and triangles, for reading them anew. */
  takeApart(): void {
    for (const e of this.entries) {
      e.mesh.material = e.source
      e.mesh.geometry = e.geometry
    }
  }

  /** Puts a scene in place of the one before (`takeApart` comes first); meshes that stay keep what was made for them. */
  setModel(root: Object3D, facts: SceneFacts): void {
    const old = new Map(this.entries.map((e) => [e.mesh, e]))
    const made = new Map<string, ShaderMaterial>()
    const entries: MeshEntry[] = []
    root.updateMatrixWorld(true)
    const { min, max } = facts.box
    const longestM = longestEdge(Math.hypot(max[0] - min[0], max[1] - min[1], max[2] - min[2]))
    const budget = { left: MOST_PIECES }
    const split = new Map<string, BufferGeometry>()
    root.traverse((o) => {
      if (!(o instanceof Mesh)) return
      const known = old.get(o)
      old.delete(o)
      const e = known ? { ...known, nodeId: String(o.userData['nodeId'] ?? '') } : this.entryOf(o, made)
      entries.push(drawnAt(e, longestM / o.matrixWorld.getMaxScaleOnAxis(), split, budget))
    })
    for (const gone of old.values()) this.drop(gone)
    this.entries = entries
    if (this.root) this.scene.remove(this.root)
    this.root = root
    root.traverse((o) => {
      // nothing moves by itself: matrices are computed once
      o.matrixAutoUpdate = false
      o.matrixWorldAutoUpdate = false
    })
    this.scene.add(root)
    this.hidden = []
    this.setFacts(facts)
  }

  private entryOf(mesh: Mesh, made: Map<string, ShaderMaterial>): MeshEntry {
    const source = (Array.isArray(mesh.material) ? mesh.material[0] : mesh.material) as Material
    const key = `${source.uuid}|${mesh.geometry.hasAttribute('color')}|${['uv', 'uv1'].map((n) => mesh.geometry.hasAttribute(n)).join()}`
    let finished = made.get(key)
    if (!finished) {
      finished = source.transparent ? this.clearMaterial(source, mesh) : surfaceMaterial(source, mesh, this.anisotropy)
      made.set(key, finished)
    }
    mesh.geometry = withNormals(mesh.geometry)
    const nodeId = String(mesh.userData['nodeId'] ?? '')
    const { geometry } = mesh
    const holes = cutOut(finished)
    return {
      mesh,
      source,
      geometry,
      drawn: geometry,
      longest: Infinity,
      nodeId,
      finished,
      shadow: holes ? shadowMaterial(holes) : this.plainShadow,
      ...drawingMaterials(source, mesh, holes),
      clear: source.transparent,
    }
  }

  /** Other bounds of the same scene. */
  setFacts(facts: SceneFacts): void {
    this.facts = facts
    this.revision++
    const { min, max } = facts.box
    this.centre.set((min[0] + max[0]) / 2, (min[1] + max[1]) / 2, (min[2] + max[2]) / 2)
    this.radius = Math.max(0.01, Math.hypot(max[0] - min[0], max[1] - min[1], max[2] - min[2]) / 2)
    this.light['uReach']!.value = Math.min(0.35, this.radius * 0.04)
  }

  setLight(volume: LightVolume): void {
    const u = this.light
    ;(['uLightR', 'uLightG', 'uLightB'] as const).forEach((name, i) => {
      ;(u[name]!.value as Data3DTexture).dispose()
      u[name]!.value = volumeTexture(volume.channels[i]!, volume.size)
    })
    ;(u['uLightOrigin']!.value as Vector3).set(...volume.origin)
    ;(u['uLightStep']!.value as Vector3).set(...volume.stepM)
    ;(u['uLightSize']!.value as Vector3).set(...volume.size)
  }

  /** Nodes that are not shown (with all below them), for the passes that follow. */
  setHidden(hidden: readonly string[]): void {
    this.hidden = hidden
  }

  /** Makes exactly the meshes of a pass visible, with their material for it. Says whether there are any. */
  prepare(pass: Pass): boolean {
    const gone = new Set(this.hidden)
    let any = false
    for (const e of this.entries) {
      const takesPart = pass === 'clear' ? e.clear : !e.clear
      e.mesh.visible = takesPart && !isHidden(e.nodeId, gone)
      if (!e.mesh.visible) continue
      any = true
      e.mesh.geometry = e.drawn
      e.mesh.material = e[MATERIAL_OF[pass]]
    }
    return any
  }

  /** Makes exactly these objects (with all below them) visible, save hidden ones. */
  prepareOnly(ids: readonly string[]): void {
    const gone = new Set(this.hidden)
    const wanted = new Set(ids)
    for (const e of this.entries)
      e.mesh.visible = wanted.size > 0 && isUnder(e.nodeId, wanted) && !isHidden(e.nodeId, gone)
  }

  drawingUniforms(set: (u: Uniforms) => void): void {
    for (const e of this.entries) set(e.drawing.uniforms)
  }
  surfaceUniforms(set: (u: Uniforms) => void): void {
    for (const e of this.entries) set(e.finished.uniforms)
  }

  /** Nearest and farthest depth of the model along a view direction, metres from `station`. */
  depthRange(station: readonly number[], forward: readonly number[]): { nearM: number; farM: number } {
    let nearM = Infinity
    let farM = -Infinity
    for (const { box } of this.facts?.nodes ?? []) {
      let lo = 0
      let hi = 0
      for (let i = 0; i < 3; i++) {
        const a = (box.min[i]! - station[i]!) * forward[i]!
        const b = (box.max[i]! - station[i]!) * forward[i]!
        lo += Math.min(a, b)
        hi += Math.max(a, b)
      }
      nearM = Math.min(nearM, lo)
      farM = Math.max(farM, hi)
    }
    return Number.isFinite(nearM) ? { nearM, farM } : { nearM: 0, farM: 1 }
  }

  private clearMaterial(source: Material, mesh: Mesh): ShaderMaterial {
    const m = surfaceMaterial(source, mesh, this.anisotropy, CLEAR_FRAGMENT)
    Object.assign(m.uniforms, this.light)
    m.transparent = true
    // over the picture; the brightness beside its colours stays what lies behind
    m.blending = CustomBlending
    m.blendSrc = SrcAlphaFactor
    m.blendDst = OneMinusSrcAlphaFactor
    m.blendSrcAlpha = ZeroFactor
    m.blendDstAlpha = OneFactor
    m.depthTest = false
    m.depthWrite = false
    m.side = DoubleSide
    m.forceSinglePass = true
    return m
  }

  clear(): void {
    for (const e of this.entries) this.drop(e)
    if (this.root) this.scene.remove(this.root)
    this.entries = []
    this.root = null
    this.facts = null
  }

  private drop(e: MeshEntry): void {
    e.geometry.dispose()
    e.drawn.dispose()
    e.drawing.dispose()
    e.winding.dispose()
    e.finished.dispose()
    if (e.shadow !== this.plainShadow) e.shadow.dispose()
    for (const u of Object.values(e.finished.uniforms))
      if (
        u.value instanceof Texture &&
        !(u.value instanceof Data3DTexture) &&
        u !== this.light['uShadow'] &&
        u !== this.light['uDepth'] &&
        u !== this.light['uEnvironment']
      ) {
        u.value.dispose()
        // a decoded picture holds its memory until it is closed
        if (u.value.image instanceof ImageBitmap) u.value.image.close()
      }
  }
}

/** The entry with its geometry drawn without edges longer than `longest` (own units); as it was where that is the same. */
function drawnAt(
  e: MeshEntry,
  longest: number,
  split: Map<string, BufferGeometry>,
  budget: { left: number },
): MeshEntry {
  if (e.longest === longest) return e
  const key = `${e.geometry.uuid}|${longest}`
  const drawn = split.get(key) ?? withoutLongEdges(e.geometry, longest, budget)
  split.set(key, drawn)
  if (e.drawn !== e.geometry && e.drawn !== drawn) e.drawn.dispose()
  return { ...e, drawn, longest }
}

/** The surface material of a glTF material: colour, roughness, metal, normal and emission with their textures. */
function surfaceMaterial(
  source: Material,
  mesh: Mesh,
  anisotropy: number,
  fragmentShader = SURFACE_FRAGMENT,
): ShaderMaterial {
  const m = source instanceof MeshStandardMaterial ? source : null
  const maps = {
    COLOUR_MAP: m?.map,
    ROUGH_MAP: m?.roughnessMap,
    METAL_MAP: m?.metalnessMap,
    NORMAL_MAP: m?.normalMap,
    EMISSION_MAP: m?.emissiveMap,
  }
  const defines: Record<string, string> = {}
  // a map whose set of places the mesh does not have is not drawn
  for (const [name, map] of Object.entries(maps))
    if (map && map.channel < 2 && mesh.geometry.hasAttribute(uvName(map))) defines[name] = uvName(map)
  for (const map of Object.values(maps)) if (map) map.anisotropy = anisotropy
  if (mesh.geometry.hasAttribute('uv1')) defines['HAS_UV1'] = ''
  if (source.side === DoubleSide) defines['TWO_SIDED'] = ''
  if (source.alphaTest > 0) defines['ALPHA_TEST'] = ''
  if (defines['NORMAL_MAP'] || fragmentShader !== SURFACE_FRAGMENT) defines['SEES_PLACE'] = ''
  const place = (map: Texture | null | undefined): { value: Matrix3 } => ({ value: map?.matrix ?? new Matrix3() })
  const fallback = 'color' in source && source.color instanceof Color ? source.color : new Color(0.7, 0.7, 0.7)
  const material = new ShaderMaterial({
    glslVersion: GLSL3,
    vertexShader: SURFACE_VERTEX,
    fragmentShader,
    defines,
    side: source.side === DoubleSide ? DoubleSide : FrontSide,
    blending: NoBlending,
    uniforms: {
      uColour: { value: m?.color ?? fallback },
      uAlpha: { value: source.opacity },
      uAlphaTest: { value: source.alphaTest },
      uRoughMetal: { value: new Vector2(m?.roughness ?? 0.8, m?.metalness ?? 0) },
      uEmission: { value: m ? m.emissive.clone().multiplyScalar(m.emissiveIntensity) : new Color(0, 0, 0) },
      uNormalScale: { value: m?.normalScale.x ?? 1 },
      uMap: { value: m?.map ?? null },
      uRoughMap: { value: m?.roughnessMap ?? null },
      uMetalMap: { value: m?.metalnessMap ?? null },
      uNormalMap: { value: m?.normalMap ?? null },
      uEmissionMap: { value: m?.emissiveMap ?? null },
      uMapPlace: place(m?.map),
      uRoughPlace: place(m?.roughnessMap),
      uMetalPlace: place(m?.metalnessMap),
      uNormalPlace: place(m?.normalMap),
      uEmissionPlace: place(m?.emissiveMap),
      inverseView: { value: null },
    },
  })
  material.vertexColors = mesh.geometry.hasAttribute('color')
  return material
}

const shadowMaterial = ({ defines, uniforms }: NonNullable<ReturnType<typeof cutOut>>): ShaderMaterial =>
  new ShaderMaterial({
    glslVersion: GLSL3,
    vertexShader: SHADOW_VERTEX,
    fragmentShader: SHADOW_FRAGMENT,
    defines,
    uniforms,
    colorWrite: false,
    side: DoubleSide,
  })
/** What a pass of its own needs to leave a cut-out's holes open; null where a surface has none. */
function cutOut({ uniforms, defines }: ShaderMaterial): { defines: Record<string, string>; uniforms: Uniforms } | null {
  const { uMap, uMapPlace, uAlpha, uAlphaTest } = uniforms as Uniforms
  const { COLOUR_MAP, HAS_UV1 } = defines as Record<string, string | undefined>
  if (COLOUR_MAP === undefined || !((uAlphaTest!.value as number) > 0)) return null
  return {
    defines: { COLOUR_MAP, ...(HAS_UV1 === undefined ? {} : { HAS_UV1 }) },
    uniforms: { uMap: uMap!, uMapPlace: uMapPlace!, uAlpha: uAlpha!, uAlphaTest: uAlphaTest! },
  }
}

/** Paper and ink, and the count of faces at the cut; both read the same uniforms. */
function drawingMaterials(
  source: Material,
  mesh: Mesh,
  holes: ReturnType<typeof cutOut>,
): { drawing: ShaderMaterial; winding: ShaderMaterial } {
  const m = source instanceof MeshStandardMaterial ? source : null
  const uniforms: Uniforms = {
    uTint: { value: m?.color ?? new Color(0.7, 0.7, 0.7) },
    uCut: { value: new Vector4(0, 0, 0, 1) },
    uPaper: { value: new Color(1, 1, 1) },
    uDepthRange: { value: new Vector2(0, 1) },
    uSheet: { value: source.side === DoubleSide ? 1 : 0 },
    ...holes?.uniforms,
  }
  const shared = {
    glslVersion: GLSL3,
    vertexShader: DRAWING_VERTEX,
    side: DoubleSide,
    uniforms,
    defines: holes?.defines ?? {},
  } as const
  const drawing = new ShaderMaterial({ ...shared, fragmentShader: DRAWING_FRAGMENT, blending: NoBlending })
  const winding = new ShaderMaterial({
    ...shared,
    fragmentShader: WINDING_FRAGMENT,
    blending: CustomBlending,
    blendSrc: OneFactor,
    blendDst: OneFactor,
    depthTest: false,
    depthWrite: false,
  })
  drawing.vertexColors = winding.vertexColors = mesh.geometry.hasAttribute('color')
  return { drawing, winding }
}
