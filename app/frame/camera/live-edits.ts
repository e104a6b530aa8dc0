// Numbers of panels: typed they are done at once, dragged they are shown in picture, Plan and Side and done at the end.
import type { CameraChanges, Command } from '#model'
import { useProject } from '../../stores/project.ts'

export function useLiveEdits() {
  const project = useProject()
  const edit = { settle: () => project.settleEdit(), cancel: () => project.letGo() }
  /** How a drag ends that shows the camera: as one step of the trail. */
  const ends = (label: string) => ({ settle: () => project.settle(label), cancel: () => project.letGo() })
  return {
    ends,
    /** Listeners of a number field, from what its number makes of the camera. */
    camera: (changes: (value: number) => CameraChanges, label: string) => ({
      change: (value: number) => void project.move(changes(value), label),
      live: (value: number) => void project.show(changes(value)),
      ...ends(label),
    }),
    /** Listeners of a number field, from the command that its number makes. */
    number: (command: (value: number) => Command) => ({
      change: (value: number) => void project.run(command(value)),
      live: (value: number) => project.showEdit(command(value)),
      ...edit,
    }),
    /** The same of three numbers along the axes. */
    axes: (command: (axis: 0 | 1 | 2, value: number) => Command) => ({
      change: (axis: 0 | 1 | 2, value: number) => void project.run(command(axis, value)),
      live: (axis: 0 | 1 | 2, value: number) => project.showEdit(command(axis, value)),
      ...edit,
    }),
  }
}
