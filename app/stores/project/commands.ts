// The one door through which a document changes: a command is applied, remembered where it is an edit, and what it means is told.
import type { Aim } from '#core/camera'
import {
  applyCommand,
  limitedCamera,
  remembered,
  type CameraChanges,
  type Command,
  type ProjectDocument,
  type Stamp,
} from '#model'
import { useNotices } from '../notices.ts'
import { cutLeftOn, withoutNearCut } from './leaving-cut.ts'
import type { ProjectState } from './state.ts'

export const newId = (): string => crypto.randomUUID()
export const newStamp = (): Stamp => ({ id: newId(), at: new Date().toISOString() })

/** Commands that leave the framing that stood. */
const LEAVING: ReadonlySet<Command['type']> = new Set(['moveCamera', 'trailTo', 'recall', 'takeBack', 'putBack'])
/** Moves that are one step of the trail as long as they follow each other. */
const SMALL_MOVES: ReadonlySet<string> = new Set(['Nudged', 'Walked', 'Flown'])
const TOGETHER_MS = 2000
/** A framing that stood for so long was looked at. */
const LOOKED_MS = 3000

export function createCommands(state: ProjectState, set: (doc: ProjectDocument) => void) {
  const notices = useNotices()
  const { document, history, live, preview } = state
  /** Since when the present framing stands. */
  let standsSince = performance.now()
  const wasLookedAt = (): boolean => performance.now() - standsSince > LOOKED_MS

  /** Applies a command; a refusal is told to the person. True when something changed. */
  function run(command: Command): boolean {
    const doc = document.value
    if (!doc) return false
    live.value = preview.value = null
    const r = applyCommand(
      doc,
      LEAVING.has(command.type) ? ({ stamp: newStamp(), ...command, looked: wasLookedAt() } as Command) : command,
    )
    if (!r.ok) {
      if (r.reason !== 'nothing') notices.say(r.message, 'warning')
      return false
    }
    if (r.value.edit) history.value = remembered(history.value, doc, r.value.document, r.value.renamed)
    if (r.value.held.length > 0) notices.say(`Locked and kept as it was: ${r.value.held.join(', ')}.`, 'warning')
    if (r.value.document.trail !== doc.trail) standsSince = performance.now()
    set(r.value.document)
    const still = cutLeftOn(r.value.document, command)
    if (still) {
      const leave = (): void => void run({ type: 'setPart', part: 'cut', value: still.without })
      notices.say(still.text, 'plain', { label: 'Leave the cut', run: leave })
    }
    return true
  }
  /** Takes the near cut away, as one edit. */
  function clearNearCut(): void {
    const cut = document.value?.working.cut
    if (cut?.near.on) run({ type: 'setPart', part: 'cut', value: withoutNearCut(cut) })
  }
  return { run, clearNearCut, ...createMoves(state, run) }
}

/** Moves of the camera: small ones that follow each other are one step, and an aim that was lost is told. */
function createMoves({ document }: ProjectState, run: (command: Command) => boolean) {
  const notices = useNotices()
  /** The last of many small moves, and when it came. */
  let small = { label: '', atMs: -Infinity }

  /** An object aim that became a point says so, once the camera no longer follows; not where a point was asked for. */
  function tellAimLost(was: Aim, label: string): void {
    const now = document.value?.working.stand
    if (was.kind !== 'object' || now?.aim.kind !== 'point' || /^Aim/.test(label)) return
    const name = was.nodeId.slice(was.nodeId.lastIndexOf('/') + 1)
    notices.say(`The aim is a point now: the camera no longer follows “${name}”.`, 'plain', {
      label: 'Stay on it',
      run: () => {
        const s = document.value?.working.stand
        if (s) move({ stand: { ...s, aim: was } }, 'Aimed')
      },
    })
  }
  /** `named` marks what a command with a name of its own made: it is not lost when one goes back and moves on. */
  function move(changes: CameraChanges, label: string, named = false): boolean {
    const now = performance.now()
    const was = document.value?.working.stand.aim
    const joins = SMALL_MOVES.has(label) && small.label === label && now - small.atMs < TOGETHER_MS
    const moved = run({ type: 'moveCamera', changes: limitedCamera(changes), label, joins, named })
    if (moved) small = { label, atMs: now }
    if (moved && was) tellAimLost(was, label)
    return moved
  }
  return { move }
}
