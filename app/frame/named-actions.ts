// Commands that go by the names of what is there: viewpoints, and the presets of eye height, lens and frame.
import { computed, type ComputedRef } from 'vue'
import { PRIMES_MM } from '#core/camera'
import { action, grouped, type Action } from '../actions/registry.ts'
import { newStamp, useProject } from '../stores/project.ts'
import { useLens } from './lens/lens.ts'
import { SHAPES, useShapes } from './format/shapes.ts'
import { EYE_HEIGHTS, useStandMoves } from './straighten/stand-moves.ts'

export function useNamedActions(): ComputedRef<readonly Action[]> {
  const project = useProject()
  const moves = useStandMoves()
  const { shape } = useShapes()
  const isOpen = (): boolean => project.document !== null
  const { focal } = useLens()
  const presets = [
    ...EYE_HEIGHTS.map((e) =>
      action(`eye-${e.label}`, `Eye height: ${e.label}, ${e.m.toFixed(2)} m`, () => moves.eyeAt(e.m), {
        enabled: () => isOpen() && moves.withEyeAt(e.m) !== null,
      }),
    ),
    ...PRIMES_MM.map((mm) => action(`focal-${mm}`, `Focal length ${mm} mm`, () => focal(mm), { enabled: isOpen })),
    ...SHAPES.map((s) => action(`shape-${s.label}`, `Shape ${s.label}`, () => shape(s), { enabled: isOpen })),
  ]
  return computed(() => [
    ...grouped(
      'Recall',
      (project.document?.viewpoints ?? []).map((v) =>
        action(`recall-${v.id}`, `Recall “${v.name}”`, () =>
          project.run({ type: 'recall', viewpointId: v.id, stamp: newStamp() }),
        ),
      ),
    ),
    ...grouped('Presets', presets),
  ])
}
