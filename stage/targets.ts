// What pictures are drawn into: facts of surfaces, light, the sum of samples; for each kind of picture its own.

import {
  DepthTexture,
  HalfFloatType,
  LinearFilter,
  LinearSRGBColorSpace,
  NearestFilter,
  UnsignedByteType,
  UnsignedIntType,
  WebGLRenderTarget,
} from 'three'
import type { Size } from './aim.ts'
import type { LensSample, LensSums } from './lens-frame.ts'
import type { DrawnView } from './views.ts'

/** Each kind of picture sums its samples in targets of its own, so that one can wait while another is drawn. */
export type Owner = 'picture' | 'outside' | 'moving' | 'thumbnail' | 'still' | 'meter' | 'around' | 'points'
/** What is clear in the sample drawn last. */
export interface DrawnClear {
  /**
   * Its light, with what is seen through it as alpha; its inverse distance along the axis and how much it covers, both by how much it
   * covers; where they were asked for the sun's images in it, inverse distances of the image and of what shows it.
   */
  readonly layer: WebGLRenderTarget
  /** Whether the lit picture is without it. */
  readonly isApart: boolean
}
export interface Targets {
  readonly size: string
  readonly facts: WebGLRenderTarget
  /** Light, and what is flat. */
  readonly lit: WebGLRenderTarget
  /** Sum of the samples, once there is more than one. */
  sum: WebGLRenderTarget | null
  /** The same of samples through a lens. */
  lensSums: LensSums | null
  /** What is clear in the sample drawn last; null where nothing is, or nobody asks for more than its light. */
  clear: DrawnClear | null
  /** What it is drawn into, once there was anything. */
  clearLayer: WebGLRenderTarget | null
  summed: number
  /** Whether the sum holds the sample drawn last. */
  isAdded: boolean
  /** The sample drawn last, where it was seen through a lens that blurs. */
  lens: LensSample | null
  /** The picture with its blur, once it was asked for, and of how many samples it is (0: of none of these). */
  blurred: WebGLRenderTarget | null
  blurredOf: number
  /** Of the sample drawn last: how depth goes with the distance along the axis. */
  axial: readonly [number, number]
  /** What its samples are of, where that was said. */
  key: string
  /** The view that its samples are of, and the picture's place in it. */
  view: DrawnView | null
}

export class TargetStore {
  private readonly all = new Map<Owner, Targets>()

  get(owner: Owner): Targets | undefined {
    return this.all.get(owner)
  }
  /** Those of an owner at a size; of another size they are made anew, with nothing in them. */
  sized(owner: Owner, { width, height }: Size): Targets {
    const size = `${width}x${height}`
    const old = this.all.get(owner)
    if (old?.size === size) return old
    this.drop(owner)
    const near = { minFilter: NearestFilter, magFilter: NearestFilter } as const
    const facts = new WebGLRenderTarget(width, height, {
      ...near,
      count: 2,
      depthTexture: new DepthTexture(width, height, UnsignedIntType),
    })
    facts.textures[0]!.type = UnsignedByteType
    facts.textures[1]!.type = HalfFloatType
    for (const t of facts.textures) t.colorSpace = LinearSRGBColorSpace
    const soft = { minFilter: LinearFilter, magFilter: LinearFilter } as const
    const lit = new WebGLRenderTarget(width, height, { ...soft, type: HalfFloatType, depthBuffer: false, count: 2 })
    const made = {
      size,
      facts,
      lit,
      sum: null,
      lensSums: null,
      clear: null,
      clearLayer: null,
      summed: 1,
      isAdded: true,
      key: '',
      view: null,
      lens: null,
      blurred: null,
      blurredOf: 0,
      axial: [0, 0] as readonly [number, number],
    }
    this.all.set(owner, made)
    return made
  }
  drop(owner: Owner): void {
    const old = this.all.get(owner)
    old?.facts.depthTexture?.dispose()
    for (const t of [
      old?.facts,
      old?.lit,
      old?.sum,
      old?.lensSums?.layers,
      old?.lensSums?.flat,
      old?.blurred,
      old?.clearLayer,
    ])
      t?.dispose()
    old?.view?.map?.texture.dispose()
    this.all.delete(owner)
  }
  dispose(): void {
    for (const owner of [...this.all.keys()]) this.drop(owner)
  }
}
