// The usual shapes of a frame.
import { FRAME_LIMIT_PX } from '#model'
import { useProject } from '../../stores/project.ts'

export const SHAPES = [
  [1, 1],
  [5, 4],
  [4, 3],
  [3, 2],
  [16, 10],
  [16, 9],
  [21, 9],
] as const
export const clampPx = (v: number): number => Math.min(FRAME_LIMIT_PX, Math.max(16, Math.round(v)))

export function useShapes() {
  const project = useProject()
  /** The long side stays, the shape changes; upright stays upright. */
  function shape(a: number, b: number): void {
    const frame = project.working?.frame
    if (!frame) return
    const long = Math.max(frame.widthPx, frame.heightPx)
    const short = clampPx((long * b) / a)
    const sides =
      frame.heightPx > frame.widthPx ? { widthPx: short, heightPx: long } : { widthPx: long, heightPx: short }
    project.move({ frame: { ...frame, ...sides } }, `Shape ${a}:${b}`)
  }
  return { shape }
}
