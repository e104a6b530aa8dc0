// How the person has arranged the page: never part of the project, never undone.
import { StorageSerializers, useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { ref, shallowRef, type Ref } from 'vue'
import type { Vec3 } from '#core/math'
import type { StopKind } from '#core/optics'
import type { CellName } from '#model'
import { SAMPLES } from './samples.ts'

export type Tool = 'turn' | 'orbit' | 'slide' | 'dolly' | 'stand' | 'pick'
/** What a click on picture, Plan or Side is asked for; drags do what they always do. */
export type Picking =
  | 'square'
  | 'centre'
  | 'horizon'
  | 'aim-point'
  | 'aim-object'
  | 'main-direction'
  | 'fit-points'
  | 'measure'
  | 'staff'
  | 'over'
  | CutPicking
  | FocusPicking
  | 'lens-point'
  | 'metre-grid'
/** Places asked for by focus and exposure. */
export type FocusPicking = 'meter' | 'grey' | 'focus-point' | 'focus-object' | 'focus-between' | 'focus-blur'
/** Places asked for by cuts. */
export type CutPicking =
  | 'cut-through'
  | 'cut-between'
  | 'cut-middle'
  | 'cut-room'
  | 'cut-three'
  | 'section'
  | 'section-parallel'
  | 'near-place'
  | 'far-place'
  | 'cut-line'
export type StandTab = 'place' | 'straighten' | 'fit' | 'views'
/** What the Visible panel lists. */
export type VisibleTab = 'objects' | 'storeys' | 'materials' | 'sets'
/** How large the contact sheet's pictures are. */
export type TileSize = 'small' | 'medium' | 'large'
/** The panel opened at the right: a cell of the strip, or the models. */
export type PanelName = CellName | 'models'
/** What stands large in the middle. */
export type MainView = 'picture' | 'plan' | 'side'
/** How W A S D move: on foot over the floors, or freely. */
export type Gait = 'walk' | 'fly'
export type SideView = 'sight' | 'north' | 'east' | 'south' | 'west'

/** An unhurried walk indoors, metres a second (common practice). */
export const WALK_MPS = 1.4

/** By the room there is. */
const ownTileSize = (): TileSize =>
  window.innerHeight > 1250 ? 'large' : window.innerHeight > 950 ? 'medium' : 'small'

/** Settings of this browser, kept for every project. */
function createHabits() {
  return {
    theme: useLocalStorage<'day' | 'night'>('yoroi.theme', 'day'),
    singleKeys: useLocalStorage('yoroi.singleKeys', true),
    lastKept: useLocalStorage<string[]>('yoroi.lastKept', ['stand', 'lens', 'frame']),
    /** Step of nudging, metres. */
    nudgeM: useLocalStorage('yoroi.nudgeM', 0.1),
    snapping: useLocalStorage('yoroi.snapping', true),
    /** One plain tone for all surfaces while working; no part of the look. */
    clay: useLocalStorage('yoroi.clay', false),
    /** What stays of the view when the frame's shape changes. */
    keptInView: useLocalStorage<'width' | 'height' | 'all' | 'area'>('yoroi.keptInView', 'width'),
    /** So much of what lies past the frame is shown, dimmed, on every side; 0..0.5 of it. */
    pastFrame: useLocalStorage('yoroi.pastFrame', 0),
    /** Rise and cross in millimetres, or in per cent of the picture. */
    shiftUnit: useLocalStorage<'mm' | '%'>('yoroi.shiftUnit', 'mm'),
    /** Steps of the f-number. */
    stops: useLocalStorage<StopKind>('yoroi.stops', 'third'),
    /** Samples of the picture at rest, and of a finished one. */
    samples: useLocalStorage('yoroi.samples', SAMPLES.picture),
    stillSamples: useLocalStorage('yoroi.stillSamples', SAMPLES.still),
    /** All viewpoints as cones in Plan, Side and the outside view. */
    allCones: useLocalStorage('yoroi.allCones', false),
    walkMps: useLocalStorage('yoroi.walkMps', WALK_MPS),
    /** Widths that the panes were dragged to, page pixels; null: their own. */
    panes: useLocalStorage<{ left: number | null; right: number | null }>('yoroi.panes', { left: null, right: null }),
    tileSize: useLocalStorage<TileSize>('yoroi.tiles', ownTileSize()),
    /** Null: by the size of the model. */
    flyMps: useLocalStorage<number | null>('yoroi.flyMps', null, { serializer: StorageSerializers.object }),
  }
}

/** What is open and in hand now, as it stays from project to project. */
function createPage() {
  return {
    panel: ref<PanelName>('stand'),
    overlays: ref(true),
    /** Whether the picture that lies over the frame is shown. */
    pictureOver: ref(true),
    standTab: ref<StandTab>('place'),
    visibleTab: ref<VisibleTab>('objects'),
    keepSize: ref(false),
    /** Which pane of a narrow window is open over the picture. */
    drawer: ref<'left' | 'right' | null>(null),
    /** What is clipped is marked in the picture. */
    clipping: ref(false),
    /** The sharp zone is outlined in the picture. */
    zone: ref(false),
    help: ref(false),
    commands: ref(false),
  }
}

/** Begins anew with each project, by what it is of. */
function createForProject() {
  return {
    tool: ref<Tool>('turn'),
    picking: ref<Picking | null>(null),
    /** A main direction picked by hand; null: as found from the walls. */
    mainBearingDeg: ref<number | null>(null),
    /** Typed station or height moves the station alone: the aim stays. */
    stationAlone: ref(false),
    /** Standing goes onto furniture too. */
    onFurniture: ref(false),
    /** Eye height for the next stand, metres; null: the project's own. */
    standHeightM: ref<number | null>(null),
    /** Height over a picked point to look straight down from, metres; null: as high as the camera stands over it. */
    overHeightM: ref<number | null>(null),
    holdLevel: ref(true),
    /** The same for parallel pictures, which stand off level by their nature. */
    holdLevelFlat: ref(false),
    holdSquare: ref(false),
    storey: ref(0),
    side: ref<SideView>('sight'),
    keeping: ref<'keep' | 'new' | null>(null),
    trail: ref(false),
    main: ref<MainView>('picture'),
    /** Ids of selected objects, in the order of selecting. */
    selection: shallowRef<readonly string[]>([]),
    gait: ref<Gait>('walk'),
    /** What is hidden, drawn as ghosts over the picture, to be clicked back. */
    ghosts: ref(false),
    /** A change of focal length moves the station, so that the subject keeps its size. */
    holdSubject: ref(false),
    /** A picked point that is held, and at whose distance widths are told; null: the aim. */
    lensPoint: shallowRef<Vec3 | null>(null),
    /** Five lenses side by side below the picture. */
    fiveLenses: ref(false),
  }
}

export const useView = defineStore('view', () => {
  const own = createForProject()
  const page = createPage()
  function forSubject(subject: 'room' | 'product'): void {
    const start = createForProject()
    for (const name of Object.keys(own) as (keyof typeof own)[]) (own[name] as Ref).value = start[name].value
    own.tool.value = subject === 'room' ? 'turn' : 'orbit'
    own.holdLevel.value = subject === 'room'
    own.gait.value = subject === 'room' ? 'walk' : 'fly'
  }
  /** Opens a panel at the right, also where the right side is a drawer. */
  function open(panel: PanelName): void {
    page.panel.value = panel
    page.drawer.value = 'right'
  }
  return { ...createHabits(), ...page, ...own, forSubject, open }
})
