// What a drag, a wheel step or a walk moves: the project's camera, or the temporary view from outside.
import type { Camera, Framing } from '#core/camera'
import { useOutside } from '../outside/outside.ts'
import { useProject } from '../../stores/project.ts'

export interface Movable {
  /** The project's camera; false for the view from outside. */
  readonly isCamera: boolean
  camera(): Camera | null
  framing(): Framing | null
  show(f: Framing): void
  settle(label: string): void
  letGo(): void
}

/** Asked anew for each movement: stepping outside changes what moves. */
export function useMovable(): () => Movable {
  const project = useProject()
  const outside = useOutside()
  const inside: Movable = {
    isCamera: true,
    camera: () => project.camera,
    framing: () => (project.working ? { stand: project.working.stand, lens: project.working.lens } : null),
    show: (f) => void project.show({ stand: f.stand, lens: f.lens }),
    settle: (label) => project.settle(label),
    letGo: () => project.letGo(),
  }
  const out: Movable = {
    isCamera: false,
    camera: () => outside.camera,
    framing: () => outside.shown,
    show: (f) => void (outside.live = f),
    settle: () => {
      if (outside.live && outside.framing) outside.framing = outside.live
      outside.live = null
    },
    letGo: () => void (outside.live = null),
  }
  return () => (outside.on ? out : inside)
}
