// What can be done with the frame by name.
import { action, type Action } from '../../actions/registry.ts'
import { useNotices } from '../../stores/notices.ts'
import { useProject } from '../../stores/project.ts'
import { useView } from '../../stores/view.ts'
import { takesPicks, usePicking } from '../straighten/picking.ts'
import { useGuides } from './guides.ts'
import { useShapes } from './shapes.ts'

/** What lies past the frame is shown so much when it is switched on by name. */
const PAST = 0.15

export function formatActions(): Action[] {
  const view = useView()
  const notices = useNotices()
  const { begin } = usePicking()
  const { set } = useGuides()
  const { turn } = useShapes()
  takesPicks('metre-grid', (point, hit) => {
    if (!hit) {
      notices.say('This needs a surface: click a floor or a wall in the picture.', 'warning')
      return false
    }
    set('metres', { plane: { point, normal: hit.normal } })
    return true
  })
  const isOpen = (): boolean => useProject().document !== null
  return [
    action('turn-frame', 'Turn the picture upright, or back', turn, { enabled: isOpen }),
    action('metre-grid', 'Metre grid: click a floor or a wall', () => begin('metre-grid'), { enabled: isOpen }),
    action('past-frame', 'What lies past the frame: shown or not', () => (view.open('frame'), (view.pastFrame = view.pastFrame > 0 ? 0 : PAST)), { enabled: isOpen }), // prettier-ignore
  ]
}
