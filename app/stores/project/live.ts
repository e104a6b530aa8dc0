// What a drag shows before it is done: a framing, or any other edit, beside the document; it becomes one command at its end.
import { applyCommand, limitedCamera, type CameraChanges, type Command } from '#model'
import { useNotices } from '../notices.ts'
import type { ProjectState } from './state.ts'

interface Done {
  readonly move: (changes: CameraChanges, label: string) => boolean
  readonly run: (command: Command) => boolean
}

export function createLive({ document, live, preview }: ProjectState, { move, run }: Done) {
  const notices = useNotices()
  /** Shows a framing without making it a step; refused parts (locked) are left out and told once a drag. */
  function show(changes: CameraChanges): boolean {
    const doc = document.value
    if (!doc) return false
    const held = (['stand', 'lens', 'frame'] as const).filter(
      (p) => changes[p] !== undefined && changes[p] !== doc.working[p] && doc.locked.includes(p),
    )
    if (held.length > 0) {
      notices.say(
        `${held.map((h) => h[0]!.toUpperCase() + h.slice(1)).join(' and ')} locked: unlock to change.`,
        'warning',
      )
      return false
    }
    live.value = limitedCamera(changes)
    return true
  }
  /** Ends a drag: what is shown becomes one step of the trail. */
  function settle(label: string): void {
    const changes = live.value
    if (changes) move(changes, label)
  }
  /** The edit shown last, where it is refused: told once, at the end of its drag. */
  let refused: Command | null = null
  /** Shows an edit without making it. */
  function showEdit(command: Command): void {
    const doc = document.value
    if (!doc) return
    const r = applyCommand(doc, command)
    refused = r.ok ? null : command
    preview.value = r.ok ? { command, document: r.value.document } : null
  }
  /** Ends such a drag: what is shown becomes one edit. */
  function settleEdit(): void {
    const command = preview.value?.command ?? refused
    letGo()
    if (command) run(command)
  }
  function letGo(): void {
    live.value = preview.value = refused = null
  }
  return { show, settle, showEdit, settleEdit, letGo }
}
