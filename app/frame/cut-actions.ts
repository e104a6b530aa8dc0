// What can be done with cuts by name.
import { CUT_KINDS } from '#core/section'
import { action, type Action } from '../actions/registry.ts'
import { useProject } from '../stores/project.ts'
import { useView } from '../stores/view.ts'
import { useCutLine } from './cuts/cut-line.ts'
import { useCutPicks } from './cuts/cut-picks.ts'
import { KIND_WORDS, useCuts } from './cuts/cuts.ts'
import { useSections } from './cuts/section-here.ts'
import { usePicking } from './straighten/picking.ts'

const isOpen = (): boolean => useProject().document !== null

export function cutActions(): Action[] {
  const view = useView()
  const { isAny, switchAll, chosen, change, leaveWhole } = useCuts()
  useCutPicks()
  return [
    action('cuts', 'All cuts on or off', switchAll, { key: 'X', enabled: () => isAny.value }),
    ...sections(),
    ...newCuts(),
    action(
      'cut-reverse',
      'Reverse the chosen cut',
      () => chosen.value && change({ ...chosen.value, reversed: !chosen.value.reversed }),
      { enabled: () => chosen.value !== null && !chosen.value.locked },
    ),
    action('cut-whole', 'Cuts leave the selected objects whole', leaveWhole, {
      enabled: () => view.selection.length > 0,
    }),
  ]
}
function sections(): Action[] {
  const { begin } = usePicking()
  const { planOfStorey } = useSections()
  return [
    action('section', 'Section here: a sectional perspective through a clicked place', () => begin('section'), {
      key: 'Shift+X',
      enabled: isOpen,
    }),
    action('section-parallel', 'True section, parallel, through a clicked place', () => begin('section-parallel'), {
      enabled: isOpen,
    }),
    action('storey-plan', 'Plan of this storey, at a standard scale', planOfStorey, { enabled: isOpen }),
  ]
}
function newCuts(): Action[] {
  const view = useView()
  const { add } = useCuts()
  const { begin } = usePicking()
  const line = useCutLine()
  const opened = (run: () => unknown) => () => {
    view.open('cut')
    run()
  }
  return [
    action('cut-through', 'Cut along a wall or a face: click it', opened(() => begin('cut-through')), { enabled: isOpen }), // prettier-ignore
    action(
      'cut-between',
      'Cut between two things: click both',
      opened(() => begin('cut-between')),
      { enabled: isOpen },
    ),
    action('cut-line', 'Cut along a line: click its places in Plan', opened(line.draw), { enabled: isOpen }),
    ...CUT_KINDS.map((k) =>
      action(
        `cut-${k}`,
        `New cut: ${KIND_WORDS[k].toLowerCase()}`,
        opened(() => add(k)),
        { enabled: isOpen },
      ),
    ),
  ]
}
