// Everything that can be done by name: one list feeds the keys, the help and the command list.
import { useRouter } from 'vue-router'
import { useOutside } from '../outside/outside.ts'
import { useFraming } from '../picture/framing.ts'
import { savePicture } from '../picture/save.ts'
import { useSelection } from '../selection/selection.ts'
import { useMeasures } from '../measure/measures.ts'
import { useFitting } from '../straighten/fitting.ts'
import { useMeasured, VIEWS } from '../straighten/measured.ts'
import { usePicking } from '../straighten/picking.ts'
import { useStandMoves } from '../straighten/stand-moves.ts'
import { useStraighten } from '../straighten/straighten.ts'
import { newStamp, useProject } from '../stores/project.ts'
import { useView, type StandTab } from '../stores/view.ts'

export interface Action {
  readonly id: string
  readonly label: string
  /** As shown; single letters can be switched off, combinations with Ctrl never. */
  readonly key: string | null
  readonly enabled: () => boolean
  readonly run: () => void
}

export function useActions(): readonly Action[] {
  const project = useProject()
  const view = useView()
  const router = useRouter()
  const outside = useOutside()
  const { level, tiltBack, switchProjection } = useFraming()
  const { squareUnderPointer, squareNearest } = useStraighten()
  const { begin } = usePicking()
  const { fit, standBack } = useFitting()
  const { show: measured } = useMeasured()
  const { rollBy } = useStandMoves()
  const { canParent, selectParent, selectSameMaterial, setHidden } = useSelection()
  const open = (): boolean => project.document !== null

  function neighbour(by: -1 | 1): void {
    const list = project.document?.viewpoints ?? []
    const at = list.findIndex((v) => v.id === project.recalled?.id)
    const next = list[at < 0 ? (by > 0 ? 0 : list.length - 1) : at + by]
    if (next) project.run({ type: 'recall', viewpointId: next.id, stamp: newStamp() })
  }
  const always = (): boolean => true
  const measures = useMeasures()
  const tab = (what: StandTab): void => {
    view.panel = 'stand'
    view.standTab = what
  }
  const large = (what: 'plan' | 'side'): void => void (view.main = view.main === what ? 'picture' : what)
  return [
    { id: 'level', label: 'Level, keeping the framing', key: 'L', enabled: open, run: level },
    { id: 'tilt-back', label: 'Rise and cross back into tilt and bearing', key: null, enabled: open, run: tiltBack },
    {
      id: 'square',
      label: 'Square up to the wall under the pointer, or the nearest direction',
      key: 'U',
      enabled: open,
      run: () => void squareUnderPointer(),
    },
    {
      id: 'square-nearest',
      label: 'Square up to the building’s nearest direction',
      key: null,
      enabled: open,
      run: squareNearest,
    },
    { id: 'square-pick', label: 'Square up to a wall: click it', key: null, enabled: open, run: () => begin('square') },
    { id: 'centre-pick', label: 'Centre on a point: click it', key: null, enabled: open, run: () => begin('centre') },
    {
      id: 'horizon',
      label: 'Horizon through a point or an edge: click it',
      key: 'H',
      enabled: open,
      run: () => begin('horizon'),
    },
    { id: 'aim-point', label: 'Aim at a point: click it', key: null, enabled: open, run: () => begin('aim-point') },
    { id: 'aim-object', label: 'Aim at an object: click it', key: null, enabled: open, run: () => begin('aim-object') },
    { id: 'measure', label: 'Measure between two points', key: 'M', enabled: open, run: () => begin('measure') },
    {
      id: 'measure-clear',
      label: 'Clear what was measured',
      key: null,
      enabled: () => measures.pairs.length > 0,
      run: measures.clear,
    },
    { id: 'fit-points', label: 'Pick points for a fit', key: null, enabled: open, run: () => begin('fit-points') },
    {
      id: 'stand-back',
      label: 'Stand back, through the wall if need be',
      key: null,
      enabled: open,
      run: () => void standBack(),
    },
    { id: 'roll-left', label: 'Turn the picture 90° to the left', key: null, enabled: open, run: () => rollBy(90) },
    { id: 'roll-right', label: 'Turn the picture 90° to the right', key: null, enabled: open, run: () => rollBy(-90) },
    {
      id: 'perspective',
      label: 'Perspective, the subject’s size kept',
      key: null,
      enabled: open,
      run: () => switchProjection('perspective'),
    },
    {
      id: 'parallel',
      label: 'Parallel, the subject’s size kept',
      key: null,
      enabled: open,
      run: () => switchProjection('parallel'),
    },
    ...VIEWS.map((v) => ({
      id: `view-${v.id}`,
      label: `Measured view: ${v.label}`,
      key: null,
      enabled: open,
      run: () => void measured(v.view),
    })),
    {
      id: 'stand',
      label: 'Go and stand: click a floor, or drag in Plan',
      key: 'G',
      enabled: open,
      run: () => (view.tool = 'stand'),
    },
    {
      id: 'keep',
      label: 'Keep the changed parts in the viewpoint',
      key: 'K',
      enabled: () => project.changed.length > 0,
      run: () => (view.keeping = 'keep'),
    },
    {
      id: 'keep-new',
      label: 'Keep as a new viewpoint',
      key: 'Shift+K',
      enabled: open,
      run: () => (view.keeping = 'new'),
    },
    {
      id: 'put-back',
      label: 'Put the changed parts back',
      key: null,
      enabled: () => project.changed.length > 0,
      run: () => void project.run({ type: 'putBack', parts: project.changed }),
    },
    { id: 'back', label: 'Trail: back', key: '[', enabled: () => project.canBack, run: () => project.trail(-1) },
    {
      id: 'forward',
      label: 'Trail: forward',
      key: ']',
      enabled: () => project.canForward,
      run: () => project.trail(1),
    },
    { id: 'previous', label: 'Previous viewpoint', key: ',', enabled: open, run: () => neighbour(-1) },
    { id: 'next', label: 'Next viewpoint', key: '.', enabled: open, run: () => neighbour(1) },
    { id: 'undo', label: 'Undo the last edit', key: 'Ctrl+Z', enabled: () => project.canUndo, run: project.undoEdit },
    { id: 'redo', label: 'Redo', key: 'Ctrl+Shift+Z', enabled: () => project.canRedo, run: project.redoEdit },
    {
      id: 'overlays',
      label: 'Overlays on or off',
      key: 'V',
      enabled: open,
      run: () => (view.overlays = !view.overlays),
    },
    {
      id: 'keep-level',
      label: 'Keep level on or off',
      key: null,
      enabled: open,
      run: () => (view.keepLevel = !view.keepLevel),
    },
    {
      id: 'keep-square',
      label: 'Keep square on or off',
      key: null,
      enabled: open,
      run: () => (view.keepSquare = !view.keepSquare),
    },
    {
      id: 'tight-fit',
      label: 'Tight fit: fill the frame with the selection, picked points, or the model',
      key: 'T',
      enabled: open,
      run: () => void fit(),
    },
    {
      id: 'outside',
      label: 'Step outside, or back inside',
      key: 'O',
      enabled: open,
      run: () => void (outside.on ? outside.back() : outside.step()),
    },
    {
      id: 'stand-here',
      label: 'Stand here (from outside), the lens kept',
      key: null,
      enabled: () => outside.on,
      run: () => outside.standHere('kept'),
    },
    {
      id: 'gait',
      label: 'Walk or fly with W A S D',
      key: null,
      enabled: open,
      run: () => (view.gait = view.gait === 'walk' ? 'fly' : 'walk'),
    },
    {
      id: 'cones',
      label: 'All viewpoints as cones in Plan, Side and from outside',
      key: null,
      enabled: open,
      run: () => (view.allCones = !view.allCones),
    },
    { id: 'trail', label: 'Trail with pictures', key: null, enabled: open, run: () => (view.trail = !view.trail) },
    { id: 'plan-large', label: 'Plan large, or back', key: null, enabled: open, run: () => large('plan') },
    { id: 'side-large', label: 'Side large, or back', key: null, enabled: open, run: () => large('side') },
    { id: 'pick', label: 'Drag picks objects by a band', key: null, enabled: open, run: () => (view.tool = 'pick') },
    {
      id: 'hide',
      label: 'Hide the selected objects',
      key: 'Delete',
      enabled: () => view.selection.length > 0,
      run: () => setHidden(view.selection, true),
    },
    {
      id: 'parent',
      label: 'Select what the selection is a part of',
      key: null,
      enabled: () => canParent.value,
      run: selectParent,
    },
    {
      id: 'same-material',
      label: 'Select all of the same material',
      key: null,
      enabled: () => view.selection.length > 0,
      run: selectSameMaterial,
    },
    { id: 'turn', label: 'Drag turns in place', key: null, enabled: open, run: () => (view.tool = 'turn') },
    { id: 'orbit', label: 'Drag orbits the aim', key: null, enabled: open, run: () => (view.tool = 'orbit') },
    { id: 'panel-stand', label: 'Open the Stand panel', key: null, enabled: open, run: () => tab('place') },
    { id: 'tab-straighten', label: 'Open Straighten', key: null, enabled: open, run: () => tab('straighten') },
    { id: 'tab-fit', label: 'Open Fit', key: null, enabled: open, run: () => tab('fit') },
    { id: 'tab-views', label: 'Open Measured views', key: null, enabled: open, run: () => tab('views') },
    { id: 'panel-lens', label: 'Open the Lens panel', key: null, enabled: open, run: () => (view.panel = 'lens') },
    { id: 'panel-frame', label: 'Open the Frame panel', key: null, enabled: open, run: () => (view.panel = 'frame') },
    { id: 'panel-cut', label: 'Open the Cut panel', key: null, enabled: open, run: () => (view.panel = 'cut') },
    {
      id: 'panel-visible',
      label: 'Open the Visible panel',
      key: null,
      enabled: open,
      run: () => (view.panel = 'visible'),
    },
    {
      id: 'panel-models',
      label: 'Models: bring in, place, take out',
      key: null,
      enabled: open,
      run: () => (view.panel = 'models'),
    },
    { id: 'save-picture', label: 'Save the finished PNG', key: 'Ctrl+S', enabled: open, run: () => void savePicture() },
    {
      id: 'theme',
      label: 'Day or night',
      key: null,
      enabled: always,
      run: () => (view.theme = view.theme === 'day' ? 'night' : 'day'),
    },
    {
      id: 'letters',
      label: 'Single-letter keys on or off',
      key: null,
      enabled: always,
      run: () => (view.singleKeys = !view.singleKeys),
    },
    { id: 'projects', label: 'Go to the projects', key: null, enabled: always, run: () => void router.push('/') },
    { id: 'commands', label: 'List of commands', key: 'Ctrl+K', enabled: always, run: () => (view.commands = true) },
    { id: 'help', label: 'Keys and help', key: 'F1', enabled: always, run: () => (view.help = true) },
  ]
}

/** The key as the list writes it, from an event. */
export function keyOf(e: KeyboardEvent): string {
  if (e.key === '?') return 'F1'
  const name = e.key.length === 1 ? e.key.toUpperCase() : e.key
  const letter = /^[A-Z]$/.test(name) || name.length > 1
  const shift = e.shiftKey && letter ? 'Shift+' : ''
  return `${e.ctrlKey || e.metaKey ? 'Ctrl+' : ''}${shift}${name}`
}

const TYPING = 'input, textarea, select, [contenteditable], [role=combobox], [role=listbox], [role=menu]'

/** Runs the action of a key unless someone is typing, a dialog is open, or letters are switched off. */
export function handleKey(
  e: KeyboardEvent,
  actions: readonly Action[],
  options: { dialogOpen: boolean; singleKeys: boolean; dragging: boolean },
): boolean {
  if (e.defaultPrevented || e.altKey || options.dialogOpen || options.dragging) return false
  const key = keyOf(e)
  const action = actions.find((a) => a.key === key)
  if (!action) return false
  const single = !key.startsWith('Ctrl+') && key !== 'F1'
  if (single && !options.singleKeys) return false
  const typing = e.target instanceof Element && e.target.closest(TYPING) !== null
  if (typing && key !== 'Ctrl+K' && key !== 'Ctrl+S' && key !== 'F1') return false
  e.preventDefault()
  if (action.enabled()) action.run()
  return true
}
