// What the cuts take away from the surfaces that are drawn: materials with the cuts' rules in them, and the row of numbers they read.

import { DataTexture, FloatType, NearestFilter, RGBAFormat, type ShaderMaterial } from 'three'
import type { Cut, Shown } from '#core/section'
import { isUnder } from '#mesh'
import type { Uniforms } from './light-uniforms.ts'
import { cutRow } from './shaders-cuts.ts'

export class Cutting {
  private readonly uniforms: Uniforms = { uCuts: { value: rowTexture(new Float32Array(4)) }, uCutCount: { value: 0 } }
  private readonly made = new Map<ShaderMaterial, ShaderMaterial>()
  private list: readonly Cut[] = []
  private whole: ReadonlySet<string> = new Set()

  /** Takes over the cuts for the passes that follow; near and far cut are the projection's. */
  set({ list, whole = [] }: Pick<Shown['cuts'], 'list' | 'whole'>): void {
    this.whole = new Set(whole)
    if (list === this.list) return
    this.list = list
    ;(this.uniforms['uCuts']!.value as DataTexture).dispose()
    this.uniforms['uCuts']!.value = rowTexture(cutRow(list))
    this.uniforms['uCutCount']!.value = list.length
  }
  takesFrom(nodeId: string): boolean {
    return !isUnder(nodeId, this.whole)
  }
  get isOn(): boolean {
    return this.list.length > 0
  }

  /** Draws what is cut away and nothing else; a material of any kind whose shaders have the cuts' rules in them. */
  onlyGone(plain: ShaderMaterial): ShaderMaterial {
    Object.assign(plain.uniforms, this.uniforms)
    plain.defines = { ...plain.defines, CUTS: '', ONLY_GONE: '' }
    return plain
  }

  /** The material that leaves out what is cut away; the same where the object is left whole. */
  material(plain: ShaderMaterial, nodeId: string): ShaderMaterial {
    if (isUnder(nodeId, this.whole)) return plain
    const known = this.made.get(plain)
    if (known) return known
    const made = plain.clone()
    // the same numbers, not copies of them
    made.uniforms = { ...plain.uniforms, ...this.uniforms }
    made.defines = { ...plain.defines, CUTS: '' }
    this.made.set(plain, made)
    return made
  }
  /** Whatever was made from a material goes with it. */
  forget(plain: ShaderMaterial): void {
    this.made.get(plain)?.dispose()
    this.made.delete(plain)
  }
}

/** Four numbers a place, in one row. */
function rowTexture(row: Float32Array): DataTexture {
  const width = Math.max(1, row.length / 4)
  const data = new Float32Array(width * 4)
  data.set(row)
  const t = new DataTexture(data, width, 1, RGBAFormat, FloatType)
  t.minFilter = t.magFilter = NearestFilter
  t.needsUpdate = true
  return t
}
