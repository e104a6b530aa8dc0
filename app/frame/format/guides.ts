// Guides of the frame: which are on, how they look, what they are called.
import { computed } from 'vue'
import type { Guide, GuideColour, GuideKind } from '#core/camera'
import { GUIDE_KINDS } from '#model'
import { useProject } from '../../stores/project.ts'

export const GUIDE_NAMES: Record<GuideKind, string> = {
  thirds: 'thirds',
  golden: 'golden section',
  diagonals: 'diagonals',
  triangles: 'triangles',
  centre: 'centre cross',
  action: 'action safe, 93 %',
  title: 'title safe, 90 %',
  fields: 'grid of fields',
  metres: 'metre grid on a plane',
}
export const GUIDE_INK: Record<GuideColour, string> = {
  white: '#ffffff',
  black: '#101214',
  yellow: '#f2c230',
  red: '#d24b3e',
  blue: '#3f74c8',
}
const START: Omit<Guide, 'kind'> = { colour: 'white', strength: 0.4 }

export function useGuides() {
  const project = useProject()
  const guides = computed(() => project.working?.frame.guides ?? [])
  function put(next: readonly Guide[], label: string): void {
    const frame = project.working?.frame
    // in the order of the list, so that the same guides are the same frame
    const ordered = GUIDE_KINDS.flatMap((kind) => next.filter((g) => g.kind === kind))
    if (frame) project.move({ frame: { ...frame, guides: ordered } }, label)
  }
  /** Changes a guide, or switches it on so. */
  function set(kind: GuideKind, changes: Partial<Guide>): void {
    const old = guides.value.find((g) => g.kind === kind)
    put([...guides.value.filter((g) => g.kind !== kind), { ...START, ...old, ...changes, kind }], 'Guides')
  }
  const toggle = (kind: GuideKind): void =>
    guides.value.some((g) => g.kind === kind)
      ? put(guides.value.filter((g) => g.kind !== kind), 'Guides') // prettier-ignore
      : set(kind, {})
  return { guides, set, toggle }
}
