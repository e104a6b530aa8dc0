// What makes a strip Plan or Side.
import type { ComputedRef, Ref } from 'vue'
import type { ViewDirection } from '#core/framing'
import type { Shown } from '#core/section'
import type { DrawingRequest } from '#stage'

export interface StripOptions {
  readonly key: 'plan' | 'side'
  readonly host: Ref<HTMLElement | null>
  readonly canvas: Ref<HTMLCanvasElement | null>
  readonly direction: ComputedRef<ViewDirection>
  readonly cut: ComputedRef<DrawingRequest['cut']>
  /** What is drawn; left out, what the project's own picture shows. */
  readonly shown?: Readonly<Ref<Shown | null>>
  /** Pixels kept free at the top, for the strip's head. */
  readonly headPx: number
}
