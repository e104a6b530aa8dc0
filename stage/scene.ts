// The stage's three scene: for each mesh one material for the surface buffer (or for clear things) and one for drawings.

import {
  Data3DTexture,
  Matrix4,
  Mesh,
  MeshStandardMaterial,
  Scene,
  Texture,
  Vector3,
  type BufferGeometry,
  type ShaderMaterial,
  type Material,
  type Object3D,
} from 'three'
import type { Affine } from '#core/math'
import { movesOf, type ObjectMoved } from '#core/reel'
import { isHidden, isUnder, underSky, type LightVolume, type SceneFacts } from '#mesh'
import { lightUniforms, volumeTexture, type Uniforms } from './light-uniforms.ts'
import { clearMaterial, cutOut, drawingMaterials, shadowMaterial, tintMaterial, surfaceMaterial } from './materials.ts'
import { withNormals } from './normals.ts'
import { Cutting } from './cutting.ts'
import { longestEdge, withoutLongEdges } from './split.ts'

/** Triangles added at most where long ones are drawn in pieces. */
const MOST_PIECES = 200_000

interface MeshEntry {
  readonly mesh: Mesh
  readonly source: Material
  /** As the file has it (with normals), and as it is drawn: without long edges at this scale. */
  readonly geometry: BufferGeometry
  readonly drawn: BufferGeometry
  readonly longest: number
  readonly nodeId: string
  readonly finished: ShaderMaterial
  /** Without pictures on it, for the plain tone; cut-outs need theirs. */
  readonly plain: ShaderMaterial
  readonly shadow: ShaderMaterial
  readonly drawing: ShaderMaterial
  readonly winding: ShaderMaterial
  readonly clear: boolean
  /** What clear things leave of the sun; null of others. */
  readonly tint: ShaderMaterial | null
}
/** Which meshes take part in a pass. */
export type Pass = 'solid' | 'clay' | 'clear' | 'shadow' | 'drawing' | 'glass' | 'tint' | 'winding'

/** The material of an entry in each pass. */
const MATERIAL_OF = {
  solid: 'finished',
  clay: 'plain',
  clear: 'finished',
  shadow: 'shadow',
  drawing: 'drawing',
  glass: 'drawing',
  tint: 'tint',
  winding: 'winding',
} as const satisfies Record<Pass, keyof MeshEntry>

const OF_CLEAR: ReadonlySet<Pass> = new Set(['clear', 'glass', 'tint'])

const matrixOf = (m: Affine): Matrix4 => new Matrix4().fromArray([...m, 0, 0, 0, 1]).transpose()

export class StageScene {
  readonly scene = new Scene()
  readonly light = lightUniforms()
  private readonly plainShadow = shadowMaterial({ defines: {}, uniforms: {} })
  private readonly plains = new Map<Material['side'], ShaderMaterial>()
  private entries: MeshEntry[] = []
  private root: Object3D | null = null
  private hidden: readonly string[] = []
  /** What cuts take away, for the passes that follow. */
  readonly cutting = new Cutting()
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
    this.setMoved([])
    for (const e of this.entries) {
      e.mesh.material = e.source
      e.mesh.geometry = e.geometry
    }
  }

  /** Puts a scene in place of the one before (`takeApart` comes first); meshes that stay keep what was made for them. */
  setModel(root: Object3D, facts: SceneFacts): void {
    this.setMoved([])
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
      finished = source.transparent
        ? clearMaterial(source, mesh, this.anisotropy, this.light)
        : surfaceMaterial(source, mesh, this.anisotropy)
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
      plain: holes || source.transparent ? finished : this.plainOf(source),
      shadow: holes ? shadowMaterial(holes) : this.plainShadow,
      ...drawingMaterials(source, mesh, holes),
      clear: source.transparent,
      tint: source.transparent ? tintMaterial(finished) : null,
    }
  }

  private plainOf({ side }: Material): ShaderMaterial {
    const known = this.plains.get(side)
    if (known) return known
    const made = surfaceMaterial(new MeshStandardMaterial({ side, roughness: 0.9 }), new Mesh(), 1)
    this.plains.set(side, made)
    return made
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

  /** `lux`: what was about in the open when it was worked out (`aroundLux`). */
  setLight(volume: LightVolume, lux: number): void {
    this.baked = { volume, lux, share: 0 }
    const u = this.light
    ;(u['uLightOrigin']!.value as Vector3).set(...volume.origin)
    ;(u['uLightStep']!.value as Vector3).set(...volume.stepM)
    ;(u['uLightSize']!.value as Vector3).set(...volume.size)
    this.lightUnder(lux)
  }
  /**
   * Light from all sides under another sky, with so much about in the open: a small picture at dusk is not lit by the day that is worked out,
   * nor dark by day. Where sun and sky come from stays as it is until it is worked out anew.
   */
  lightUnder(lux: number): void {
    const { baked } = this
    const share = baked && baked.lux > 0 ? lux / baked.lux : 1
    if (!baked || share === baked.share) return
    baked.share = share
    const channels = underSky(baked.volume, share)
    ;(['uLightR', 'uLightG', 'uLightB'] as const).forEach((name, i) => {
      ;(this.light[name]!.value as Data3DTexture).dispose()
      this.light[name]!.value = volumeTexture(channels[i]!, baked.volume.size)
    })
  }
  /** Null before any is worked out. */
  private baked: { readonly volume: LightVolume; readonly lux: number; share: number } | null = null

  /** Nodes that are not shown (with all below them), for the passes that follow. */
  setHidden(hidden: readonly string[]): void {
    this.hidden = hidden
  }

  /** Puts objects with all below them where a picture has them; each of those that are not named stands as its file has it. */
  setMoved(moved: readonly ObjectMoved[] = []): void {
    const key = moved.length === 0 ? '' : JSON.stringify(moved)
    if (key === this.moved.key) return
    for (const [o, own] of this.moved.own) o.matrixWorld.copy(own)
    const own = new Map<Object3D, Matrix4>()
    this.moved = { key, own }
    const by = new Map([...movesOf(moved)].map(([id, move]) => [id, matrixOf(move)]))
    if (by.size === 0) return
    const put = (o: Object3D, above: Matrix4 | null): void => {
      const m = (o.userData['isPrimitive'] === true ? undefined : by.get(String(o.userData['nodeId'] ?? ''))) ?? above
      if (m) {
        own.set(o, o.matrixWorld.clone())
        o.matrixWorld.premultiply(m)
      }
      for (const c of o.children) put(c, m)
    }
    if (this.root) put(this.root, null)
  }
  private moved: { readonly key: string; readonly own: ReadonlyMap<Object3D, Matrix4> } = { key: '', own: new Map() }

  /** Makes exactly the meshes of a pass visible, with their material for it. Says whether there are any. */
  prepare(pass: Pass): boolean {
    const gone = new Set(this.hidden)
    const cuts = this.cutting.isOn && pass !== 'drawing' && pass !== 'glass' && pass !== 'winding'
    let any = false
    for (const e of this.entries) {
      const takesPart = OF_CLEAR.has(pass) ? e.clear : !e.clear
      e.mesh.visible = takesPart && !isHidden(e.nodeId, gone)
      if (!e.mesh.visible) continue
      any = true
      e.mesh.geometry = e.drawn
      const material = e[MATERIAL_OF[pass]] ?? e.shadow
      e.mesh.material = cuts ? this.cutting.material(material, e.nodeId) : material
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

  /** Makes visible what cuts take something from: all that is shown and not left whole. Whether there is any. */
  prepareCut(): boolean {
    const gone = new Set(this.hidden)
    let any = false
    for (const e of this.entries) {
      e.mesh.visible = !isHidden(e.nodeId, gone) && this.cutting.takesFrom(e.nodeId)
      e.mesh.geometry = e.drawn
      any ||= e.mesh.visible
    }
    return any
  }

  drawingUniforms(set: (u: Uniforms) => void): void {
    for (const e of this.entries) set(e.drawing.uniforms)
  }
  surfaceUniforms(set: (u: Uniforms) => void): void {
    for (const e of this.entries) set(e.finished.uniforms)
    for (const m of this.plains.values()) set(m.uniforms)
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
    for (const m of [e.finished, e.plain, e.shadow]) this.cutting.forget(m)
    if (e.shadow !== this.plainShadow) e.shadow.dispose()
    for (const u of Object.values(e.finished.uniforms))
      if (
        u.value instanceof Texture &&
        !(u.value instanceof Data3DTexture) &&
        u !== this.light['uShadow'] &&
        u !== this.light['uShadowTint'] &&
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
