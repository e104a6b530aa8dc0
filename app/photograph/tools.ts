// What the pointer does on the photograph, what is chosen there, and how it is looked at.
import { createSharedComposable, useLocalStorage } from '@vueuse/core'
import { ref, shallowRef, watch } from 'vue'
import type { Vec3 } from '#core/math'
import { useMatch } from './match.ts'

export const TOOLS = [
  { name: 'line', label: 'Lines', key: '1', hint: 'Drag along an edge that runs in the chosen direction; Shift-click adds a place to a line that the lens bends' },
  { name: 'pair', label: 'Points', key: '2', hint: 'Click a corner in the model, then the same corner in the photograph' },
  { name: 'scale', label: 'Scale', key: '3', hint: 'Drag along an edge of known length, click the ground under the eye, or click an edge of the model, then drag along it' },
  { name: 'measure', label: 'Measure', key: '4', hint: 'Drag along an edge of the chosen direction: its length, with its plus and minus' },
  { name: 'mask', label: 'Mask', key: '5', hint: 'Click round what stands before the model; Enter closes it' },
  { name: 'sun', label: 'Sun', key: '6', hint: 'Click the top of something in the model, then the tip of its shadow' },
  { name: 'choose', label: 'Choose', key: '7', hint: 'Click an object of the model where the photograph shows it; Shift-click adds one or takes it out' },
  { name: 'hand', label: 'Look', key: '8', hint: 'Drag to move the photograph; the wheel magnifies with every tool' },
] as const // prettier-ignore
export type ToolName = (typeof TOOLS)[number]['name']
/** One thing that is drawn on the photograph. */
export type Chosen = { readonly kind: 'line' | 'pair' | 'measure' | 'mask'; readonly id: string }
export const OVERLAYS = [
  { value: 'none', label: 'off' },
  { value: 'model', label: 'model' },
  { value: 'lines', label: 'lines' },
  { value: 'chosen', label: 'chosen' },
] as const
export type Overlay = (typeof OVERLAYS)[number]['value']

export interface PendingEdge {
  readonly ends: readonly [Vec3, Vec3]
  /** The way it runs in the pane's picture, from the first to the second. */
  readonly way: readonly [number, number]
}
function tools() {
  const { photoId, match } = useMatch()
  const tool = ref<ToolName>('line')
  const bundleId = ref<string | null>(null)
  const chosen = ref<Chosen | null>(null)
  /** A corner of the model that waits for its place in the photograph. */
  const pendingWorld = shallowRef<Vec3 | null>(null)
  /** An edge of the model that waits to be drawn along in the photograph, as the pane beside it shows it. */
  const pendingEdge = shallowRef<PendingEdge | null>(null)
  /** Measures begin on the ground, or on what the model shows there. */
  const measuresOn = ref<'ground' | 'model'>('ground')
  const snaps = useLocalStorage('yoroi.photograph.snaps', true)
  const showsEdges = ref(true)
  const arrows = useLocalStorage('yoroi.photograph.arrows', true)
  const overlay = ref<Overlay>('none')
  const opacity = ref(0.6)
  watch(
    () => match.value?.bundles,
    (bundles) => {
      if (!bundles?.some((b) => b.id === bundleId.value)) bundleId.value = bundles?.[0]?.id ?? null
    },
    { immediate: true },
  )
  watch(photoId, () => {
    chosen.value = null
    pendingWorld.value = null
    pendingEdge.value = null
  })
  return { tool, bundleId, chosen, pendingWorld, pendingEdge, measuresOn, snaps, showsEdges, arrows, overlay, opacity }
}
export const usePhotoTools = createSharedComposable(tools)
