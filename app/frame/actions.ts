// What can be done by name in the Frame view; `app/actions` turns the list into keys, help and the command list.
import { isPerspective } from '#core/camera'
import { useRouter } from 'vue-router'
import { action, grouped, type Action } from '../actions/registry.ts'
import { newStamp, useProject } from '../stores/project.ts'
import { useView, type StandTab, type VisibleTab } from '../stores/view.ts'
import { useFraming } from './camera/framing.ts'
import { cutActions } from './cut-actions.ts'
import { exposureActions } from './exposure/exposure-actions.ts'
import { focusActions } from './focus/focus-actions.ts'
import { formatActions } from './format/format-actions.ts'
import { lensActions } from './lens/lens-actions.ts'
import { useMeasurements } from './measure/measurements.ts'
import { useOutside } from './outside/outside.ts'
import { PANELS } from './parts/registry.ts'
import { savePicture } from './still/save.ts'
import { useHiding } from './selection/hiding.ts'
import { useSelection } from './selection/selection.ts'
import { useHoldLevel } from './camera/hold-level.ts'
import { useFitting } from './straighten/fitting.ts'
import { useMeasuredViews, VIEWS } from './straighten/measured-views.ts'
import { usePicking } from './straighten/picking.ts'
import { useStandMoves } from './straighten/stand-moves.ts'
import { useStraighten } from './straighten/straighten.ts'

export function useFrameActions(): readonly Action[] {
  return [
    ...grouped('Straighten', straightening()),
    ...grouped('Fit and views', fitting()),
    ...grouped('Stand and move', standing()),
    ...grouped('Cut', cutActions()),
    ...grouped('Lens', lensActions()),
    ...grouped('Frame', formatActions()),
    ...grouped('Focus', focusActions()),
    ...grouped('Exposure', exposureActions()),
    ...grouped('Viewpoints', keeping()),
    ...grouped('Trail and undo', histories()),
    ...grouped('What is shown', looking()),
    ...grouped('Objects', selecting()),
    ...grouped('Panels', panels()),
    ...grouped('Yoroi', general()),
  ]
}
const isOpen = (): boolean => useProject().document !== null
const isFlat = (): boolean => !useProject().working || !isPerspective(useProject().working!.lens)

function straightening(): Action[] {
  const { level, tiltBack } = useFraming()
  const { squareUnderPointer, squareNearest } = useStraighten()
  const { begin } = usePicking()
  const { rollBy } = useStandMoves()
  return [
    action('level', 'Level, keeping the framing', level, { key: 'L', enabled: isOpen }),
    action('tilt-back', 'Rise and cross back into tilt and bearing', tiltBack, { enabled: isOpen }),
    action('square', 'Square up to the wall under the pointer, or the nearest direction', squareUnderPointer, {
      key: 'U',
      enabled: isOpen,
    }),
    action('square-nearest', 'Square up to the building’s nearest direction', squareNearest, { enabled: isOpen }),
    action('square-pick', 'Square up to a wall: click it', () => begin('square'), { enabled: isOpen }),
    action('centre-pick', 'Centre on a point: click it', () => begin('centre'), { enabled: isOpen }),
    action('horizon', 'Horizon through a point or an edge: click it', () => begin('horizon'), {
      key: 'H',
      enabled: isOpen,
    }),
    action('aim-point', 'Aim at a point: click it', () => begin('aim-point'), { enabled: isOpen }),
    action('over', 'Straight down on a point: click it', () => begin('over'), { enabled: isOpen }),
    action('aim-object', 'Aim at an object: click it', () => begin('aim-object'), { enabled: isOpen }),
    action('roll-left', 'Turn the picture 90° to the left', () => rollBy(90), { enabled: isOpen }),
    action('roll-right', 'Turn the picture 90° to the right', () => rollBy(-90), { enabled: isOpen }),
  ]
}

/** The arrow points where one looks in Plan. */
const VIEW_KEYS: Record<string, string> = {
  plan: 'Shift+Y',
  'elevation-0': 'Ctrl+Shift+ArrowUp',
  'elevation-1': 'Ctrl+Shift+ArrowRight',
  'elevation-2': 'Ctrl+Shift+ArrowDown',
  'elevation-3': 'Ctrl+Shift+ArrowLeft',
}

function fitting(): Action[] {
  const { switchProjection } = useFraming()
  const { begin } = usePicking()
  const { fit, standBack } = useFitting()
  const { show: measured } = useMeasuredViews()
  const measurements = useMeasurements()
  return [
    action('measure', 'Measure between two points', () => begin('measure'), { key: 'M', enabled: isOpen }),
    action('staff', 'Stand a measuring staff', () => begin('staff'), { enabled: isOpen }),
    action('measure-clear', 'Clear what was measured', measurements.clear, {
      enabled: () => measurements.pairs.length > 0,
    }),
    action('fit-points', 'Pick points for a fit', () => begin('fit-points'), { enabled: isOpen }),
    action('tight-fit', 'Tight fit: fill the frame with the selection, picked points, or the model', () => fit(), {
      key: 'T',
      enabled: isOpen,
    }),
    action('stand-back', 'Stand back, through the wall if need be', () => standBack(), { enabled: isOpen }),
    action(
      'projection',
      'Perspective or parallel, the subject’s size kept',
      () => switchProjection(isFlat() ? 'perspective' : 'parallel'),
      { key: 'Y', enabled: isOpen },
    ),
    action('perspective', 'Perspective, the subject’s size kept', () => switchProjection('perspective'), {
      enabled: isOpen,
    }),
    action('parallel', 'Parallel, the subject’s size kept', () => switchProjection('parallel'), { enabled: isOpen }),
    ...VIEWS.map((v) =>
      action(`view-${v.id}`, `Measured view: ${v.label}`, () => measured(v.view), {
        enabled: isOpen,
        ...(VIEW_KEYS[v.id] ? { key: VIEW_KEYS[v.id] } : {}),
      }),
    ),
  ]
}

function standing(): Action[] {
  const view = useView()
  const outside = useOutside()
  const holdLevel = useHoldLevel()
  return [
    action('stand', 'Go and stand: click a floor, or drag in Plan', () => (view.tool = 'stand'), {
      key: 'G',
      enabled: isOpen,
    }),
    action('outside', 'See from outside, or back inside', () => (outside.on ? outside.back() : outside.step()), {
      key: 'O',
      enabled: isOpen,
    }),
    action(
      'stand-here',
      'Stand here: what is seen from outside becomes the picture',
      () => outside.standHere('taken'),
      {
        enabled: () => outside.on,
      },
    ),
    action('stand-here-lens', 'Stand here with the camera’s lens', () => outside.standHere('kept'), {
      enabled: () => outside.on,
    }),
    action('find-camera', 'From outside: find the camera', outside.bringCamera, { enabled: () => outside.on }),
    action('find-selection', 'From outside: find the selection', outside.bringSelection, {
      enabled: () => outside.on && view.selection.length > 0,
    }),
    action('gait', 'Walk or fly with W A S D', () => (view.gait = view.gait === 'walk' ? 'fly' : 'walk'), {
      enabled: isOpen,
    }),
    action('turn', 'Drag turns in place', () => (view.tool = 'turn'), { enabled: isOpen }),
    action('orbit', 'Drag orbits the aim', () => (view.tool = 'orbit'), { enabled: isOpen }),
    action('hold-level', 'Hold level on or off', () => (holdLevel.value = !holdLevel.value), { enabled: isOpen }),
    action('hold-square', 'Hold square on or off', () => (view.holdSquare = !view.holdSquare), { enabled: isOpen }),
  ]
}

function keeping(): Action[] {
  const project = useProject()
  const view = useView()
  const hasChanged = (): boolean => project.changed.length > 0
  function neighbour(by: -1 | 1): void {
    const list = project.document?.viewpoints ?? []
    const at = list.findIndex((v) => v.id === project.recalled?.id)
    const next = list[at < 0 ? (by > 0 ? 0 : list.length - 1) : at + by]
    if (next) project.run({ type: 'recall', viewpointId: next.id, stamp: newStamp() })
  }
  return [
    action('keep', 'Keep the changed parts in the viewpoint', () => (view.keeping = 'keep'), {
      key: 'K',
      enabled: hasChanged,
    }),
    action('keep-new', 'Keep as a new viewpoint', () => (view.keeping = 'new'), { key: 'Shift+K', enabled: isOpen }),
    action('put-back', 'Put the changed parts back', () => project.run({ type: 'putBack', parts: project.changed }), {
      enabled: hasChanged,
    }),
    action('previous', 'Previous viewpoint', () => neighbour(-1), { key: ',', enabled: isOpen }),
    action('next', 'Next viewpoint', () => neighbour(1), { key: '.', enabled: isOpen }),
  ]
}

function histories(): Action[] {
  const project = useProject()
  const view = useView()
  return [
    action('back', 'Trail: back', () => project.trail(-1), { key: '[', enabled: () => project.canBack }),
    action('forward', 'Trail: forward', () => project.trail(1), { key: ']', enabled: () => project.canForward }),
    action('undo', 'Undo the last edit', project.undoEdit, { key: 'Ctrl+Z', enabled: () => project.canUndo }),
    action('redo', 'Redo', project.redoEdit, { key: 'Ctrl+Shift+Z', enabled: () => project.canRedo }),
    action('trail', 'Trail with pictures', () => (view.trail = !view.trail), { enabled: isOpen }),
  ]
}

function looking(): Action[] {
  const view = useView()
  const large = (what: 'plan' | 'side') => () => void (view.main = view.main === what ? 'picture' : what)
  return [
    action('overlays', 'Overlays on or off', () => (view.overlays = !view.overlays), { key: 'V', enabled: isOpen }),
    action('picture-over', 'The picture over the frame, on and off', () => (view.pictureOver = !view.pictureOver), {
      key: 'P',
      enabled: () => useProject().working?.look.backdrop.over !== undefined,
    }),
    action('cones', 'All viewpoints as cones in Plan, Side and from outside', () => (view.allCones = !view.allCones), {
      enabled: isOpen,
    }),
    action('clay', 'Clay: one plain tone while working, on or off', () => (view.clay = !view.clay), {
      key: 'B',
      enabled: isOpen,
    }),
    action('plan-large', 'Plan large, or back', large('plan'), { enabled: isOpen }),
    action('side-large', 'Side large, or back', large('side'), { enabled: isOpen }),
  ]
}

function selecting(): Action[] {
  const view = useView()
  const { canParent, selectParent, selectSameMaterial } = useSelection()
  const { hidden, hide, show, showAll, isolate, isIsolated, isGone } = useHiding()
  const some = (): boolean => view.selection.length > 0
  return [
    action('pick', 'Drag picks objects by a band', () => (view.tool = 'pick'), { enabled: isOpen }),
    action('hide', 'Hide the selected objects', () => hide(view.selection), { key: 'Delete', enabled: some }),
    action('show', 'Show the selected objects', () => show(view.selection), {
      enabled: () => view.selection.some(isGone),
    }),
    action('isolate', 'Nothing but the selection (isolate), or back', isolate, {
      key: 'N',
      enabled: () => some() || isIsolated.value,
    }),
    action('show-all', 'Show everything', showAll, { key: 'Shift+N', enabled: () => hidden.value.size > 0 }),
    action('ghosts', 'Hidden things as ghosts, to click back, on or off', () => (view.ghosts = !view.ghosts), {
      key: 'Shift+V',
      enabled: () => view.ghosts || hidden.value.size > 0,
    }),
    action('parent', 'Select what the selection is a part of', selectParent, { enabled: () => canParent.value }),
    action('same-material', 'Select all of the same material', selectSameMaterial, { enabled: some }),
  ]
}

const VISIBLE_TABS = [
  ['storeys', 'storey'],
  ['materials', 'material'],
  ['sets', 'named sets'],
] as const

function panels(): Action[] {
  const view = useView()
  const tab = (what: StandTab) => () => {
    view.open('stand')
    view.standTab = what
  }
  const visible = (what: VisibleTab) => () => {
    view.open('visible')
    view.visibleTab = what
  }
  return [
    ...VISIBLE_TABS.map(([what, label]) =>
      action(`visible-${what}`, `Hide by ${label}`, visible(what), { enabled: isOpen }),
    ),
    action('panel-stand', 'Open the Stand panel', tab('place'), { enabled: isOpen }),
    action('tab-straighten', 'Open Straighten', tab('straighten'), { enabled: isOpen }),
    action('tab-fit', 'Open Fit', tab('fit'), { enabled: isOpen }),
    action('tab-views', 'Open Measured views', tab('views'), { enabled: isOpen }),
    ...PANELS.filter((p) => p.name !== 'stand').map((p) =>
      action(`panel-${p.name}`, p.command, () => view.open(p.name), { enabled: isOpen }),
    ),
  ]
}

function general(): Action[] {
  const view = useView()
  const router = useRouter()
  return [
    action('save-picture', 'Save the finished PNG', savePicture, { key: 'Ctrl+S', enabled: isOpen }),
    action('theme', 'Day or night', () => (view.theme = view.theme === 'day' ? 'night' : 'day')),
    action('letters', 'Single-letter keys on or off', () => (view.singleKeys = !view.singleKeys)),
    action('projects', 'Go to the projects', () => router.push('/')),
    action('commands', 'List of commands', () => (view.commands = true), { key: 'Ctrl+K' }),
    action('help', 'Keys and help', () => (view.help = true), { key: 'F1' }),
  ]
}
