// How the person has arranged the page: never part of the project, never undone.
import { StorageSerializers, useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'
import type { CellName } from '#model'

export type Tool = 'turn' | 'orbit' | 'slide' | 'dolly' | 'stand' | 'pick'
/** What a click on picture, Plan or Side is asked for; drags do what they always do. */
export type Picking =
  'square' | 'centre' | 'horizon' | 'aim-point' | 'aim-object' | 'main-direction' | 'fit-points' | 'measure'
export type StandTab = 'place' | 'straighten' | 'fit' | 'views'
/** The panel opened at the right: a cell of the strip, or the models. */
export type PanelName = CellName | 'models'
/** What stands large in the middle. */
export type MainView = 'picture' | 'plan' | 'side'
/** How W A S D move: on foot over the floors, or freely. */
export type Gait = 'walk' | 'fly'
export type SideView = 'sight' | 'north' | 'east' | 'south' | 'west'

/** An unhurried walk indoors, metres a second (common practice). */
export const WALK_MPS = 1.4

export const useView = defineStore('view', () => {
  const theme = useLocalStorage<'day' | 'night'>('yoroi.theme', 'day')
  const singleKeys = useLocalStorage('yoroi.singleKeys', true)
  const lastKept = useLocalStorage<string[]>('yoroi.lastKept', ['stand', 'lens', 'frame'])
  const panel = ref<PanelName>('stand')
  const tool = ref<Tool>('turn')
  const overlays = ref(true)
  const picking = ref<Picking | null>(null)
  const standTab = ref<StandTab>('place')
  /** A main direction picked by hand; null: as found from the walls. */
  const mainBearingDeg = ref<number | null>(null)
  /** Typed station or height moves the station alone: the aim stays. */
  const stationAlone = ref(false)
  /** Standing goes onto furniture too. */
  const onFurniture = ref(false)
  /** Step of nudging, metres. */
  const nudgeM = useLocalStorage('yoroi.nudgeM', 0.1)
  const snapping = useLocalStorage('yoroi.snapping', true)
  /** Eye height for the next stand, metres; null: the project's own. */
  const standHeightM = ref<number | null>(null)
  const keepLevel = ref(true)
  /** The same for parallel pictures, which stand off level by their nature. */
  const keepLevelFlat = ref(false)
  const keepSquare = ref(false)
  const keepSize = ref(false)
  const storey = ref(0)
  const side = ref<SideView>('sight')
  const keeping = ref<'keep' | 'new' | null>(null)
  const help = ref(false)
  const commands = ref(false)
  const trail = ref(false)
  const main = ref<MainView>('picture')
  /** Ids of selected objects, in the order of selecting. */
  const selection = shallowRef<readonly string[]>([])
  /** All viewpoints as cones in Plan, Side and the outside view. */
  const allCones = useLocalStorage('yoroi.allCones', false)
  const gait = ref<Gait>('walk')
  const walkMps = useLocalStorage('yoroi.walkMps', WALK_MPS)
  /** Null: by the size of the model. */
  const flyMps = useLocalStorage<number | null>('yoroi.flyMps', null, { serializer: StorageSerializers.object })

  function forSubject(subject: 'room' | 'product'): void {
    tool.value = subject === 'room' ? 'turn' : 'orbit'
    keepLevel.value = subject === 'room'
    keepLevelFlat.value = false
    keepSquare.value = false
    storey.value = 0
    side.value = 'sight'
    keeping.value = null
    main.value = 'picture'
    picking.value = null
    mainBearingDeg.value = null
    standHeightM.value = null
    stationAlone.value = false
    onFurniture.value = false
    selection.value = []
    trail.value = false
    gait.value = subject === 'room' ? 'walk' : 'fly'
  }
  return {
    theme,
    singleKeys,
    lastKept,
    panel,
    tool,
    overlays,
    picking,
    standTab,
    mainBearingDeg,
    stationAlone,
    onFurniture,
    nudgeM,
    snapping,
    standHeightM,
    keepLevel,
    keepLevelFlat,
    keepSquare,
    keepSize,
    storey,
    side,
    keeping,
    help,
    commands,
    trail,
    main,
    selection,
    allCones,
    gait,
    walkMps,
    flyMps,
    forSubject,
  }
})
