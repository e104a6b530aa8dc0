// The open project: its document, the two histories, what a drag shows before it is done, and saving.
// Model: documents are immutable values in shallow refs; every change goes through `run(command)`. A drag shows a `live` framing
// and becomes one command at its end; letting `live` go restores the start exactly.

import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { poseOfStand, type Aim, type Camera } from '#core/camera'
import {
  applyCommand,
  changedParts,
  EMPTY_HISTORY,
  findViewpoint,
  redo,
  limitedCamera,
  remembered,
  shownOf,
  trailNeighbour,
  undo,
  withoutEdit,
  type CameraChanges,
  type Command,
  type History,
  type PartName,
  type ProjectDocument,
  type Setup,
  type Stamp,
} from '#model'
import { ALL_SHOWN, type Shown } from '#core/section'
import { centreOf } from './centres.ts'
import { api, type OpenedProject } from '../api/client.ts'
import { useNotices } from './notices.ts'
import { keepHistory, keptHistory } from './kept-history.ts'
import { cutLeftOn, withoutNearCut } from './leaving-cut.ts'
import { createSaving } from './saving.ts'

export const newId = (): string => crypto.randomUUID()
export const newStamp = (): Stamp => ({ id: newId(), at: new Date().toISOString() })

/** Commands that leave the framing that stood. */
const LEAVING: ReadonlySet<Command['type']> = new Set(['moveCamera', 'trailTo', 'recall', 'takeBack', 'putBack'])
/** Moves that are one step of the trail as long as they follow each other. */
const SMALL_MOVES: ReadonlySet<string> = new Set(['Nudged', 'Walked', 'Flown'])
const TOGETHER_MS = 2000
/** A framing that stood for so long was looked at. */
const LOOKED_MS = 3000

export const useProject = defineStore('project', () => {
  const notices = useNotices()
  const id = ref<string | null>(null)
  const document = shallowRef<ProjectDocument | null>(null)
  const history = shallowRef<History>(EMPTY_HISTORY)
  const live = shallowRef<CameraChanges | null>(null)
  const saving = createSaving(id, document)
  const { state: saveState, savedAt, problem, theirs, unsaved, save } = saving

  /** The working Setup as it is shown now, a running drag included. */
  const working = computed<Setup | null>(() => {
    const doc = document.value
    if (!doc) return null
    const l = live.value
    return l
      ? { ...doc.working, ...Object.fromEntries(Object.entries(l).filter(([, v]) => v !== undefined)) }
      : doc.working
  })
  const camera = computed<Camera | null>(() => {
    const w = working.value
    return w ? { pose: poseOfStand(w.stand, centreOf), lens: w.lens, frame: w.frame } : null
  })
  /** What the working Setup shows. */
  const shown = computed<Shown>(() => (working.value ? shownOf(working.value) : ALL_SHOWN))
  const recalled = computed(() =>
    document.value ? findViewpoint(document.value, document.value.recalledId) : undefined,
  )
  const changed = computed<PartName[]>(() =>
    document.value && working.value ? changedParts(document.value, working.value) : [],
  )
  const canUndo = computed(() => history.value.past.length > 0)
  const canRedo = computed(() => history.value.future.length > 0)
  const beside = (by: -1 | 1): number | null => document.value && trailNeighbour(document.value.trail, by)
  const canBack = computed(() => beside(-1) !== null)
  const canForward = computed(() => beside(1) !== null)

  function set(doc: ProjectDocument): void {
    document.value = doc
    saving.changed()
  }

  /** Applies a command; a refusal is told to the person. True when something changed. */
  function run(command: Command): boolean {
    const doc = document.value
    if (!doc) return false
    live.value = null
    const r = applyCommand(
      doc,
      LEAVING.has(command.type) ? ({ stamp: newStamp(), ...command, looked: wasLookedAt() } as Command) : command,
    )
    if (!r.ok) {
      if (r.reason !== 'nothing') notices.say(r.message, 'warning')
      return false
    }
    if (r.value.edit) history.value = remembered(history.value, doc, r.value.document)
    if (r.value.held.length > 0) notices.say(`Locked and kept as it was: ${r.value.held.join(', ')}.`, 'warning')
    if (r.value.document.trail !== doc.trail) standsSince = performance.now()
    set(r.value.document)
    const still = cutLeftOn(r.value.document, command)
    if (still) notices.say(still, 'plain', { label: 'Leave the cut', run: clearNearCut })
    return true
  }
  /** Takes the near cut away, as one edit. */
  function clearNearCut(): void {
    const cut = document.value?.working.cut
    if (cut?.near.on) run({ type: 'setPart', part: 'cut', value: withoutNearCut(cut) })
  }
  /** Since when the present framing stands. */
  let standsSince = performance.now()
  const wasLookedAt = (): boolean => performance.now() - standsSince > LOOKED_MS
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
  /** The last of many small moves, and when it came. */
  let small = { label: '', atMs: -Infinity }
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
  function letGo(): void {
    live.value = null
  }

  function step(take: (d: ProjectDocument, h: History) => ReturnType<typeof undo>): void {
    if (!document.value) return
    letGo()
    const s = take(document.value, history.value)
    if (!s) return
    history.value = s.history
    set(s.document)
  }
  const undoEdit = (): void => step(undo)
  /** Takes back the edit that was just made, whatever is done until it is called: for the message that tells of it. */
  function undoOfThis(): () => void {
    const edit = history.value.past.at(-1)
    return () => {
      const doc = document.value
      if (!doc || !edit || !history.value.past.includes(edit)) return
      if (history.value.past.at(-1) === edit) return undoEdit()
      letGo()
      const r = withoutEdit(doc, edit)
      if (!r.ok) return notices.say(r.message, 'warning')
      history.value = remembered(history.value, doc, r.value)
      set(r.value)
    }
  }
  const redoEdit = (): void => step(redo)
  const trail = (by: -1 | 1): void => void (beside(by) !== null && run({ type: 'trailTo', at: beside(by)! }))

  async function open(projectId: string): Promise<void> {
    await close()
    const o = await api.open(projectId)
    id.value = o.id
    history.value = EMPTY_HISTORY
    copyId = null
    const doc = await saving.begin(o)
    if (o.damaged) notices.say(damagedText(o), 'error')
    document.value = doc
    history.value = keptHistory(o.id, doc)
    if (doc !== o.document) saving.changed()
  }
  const remember = (): void => void (id.value && document.value && keepHistory(id.value, document.value, history.value))
  // a reload, or the tab put away
  window.addEventListener('pagehide', remember)

  /** Waits for what is not saved yet, then lets the project go. */
  async function close(): Promise<void> {
    remember()
    await saving.end()
    id.value = null
    document.value = null
    live.value = null
    history.value = EMPTY_HISTORY
  }

  /** A conflict: go on with the other version; this one goes. */
  async function takeTheirs(): Promise<void> {
    const at = id.value
    if (!at) return
    await saving.giveUp()
    document.value = null
    await open(at)
  }
  /** A conflict: this version becomes a project of its own. Returns its id. */
  async function keepAsCopy(): Promise<string | null> {
    const doc = document.value
    if (!doc) return null
    const name = theirs.value ? `${doc.name} (copy)` : doc.name
    copyId ??= newId()
    const made = await api.create({ ...doc, name: name.slice(0, 200) }, copyId)
    copyId = null
    await saving.giveUp()
    document.value = null
    return made.id
  }
  /** The copy's id, the same at every try. */
  let copyId: string | null = null
  /** The project was deleted elsewhere and is not wanted back. */
  const letGoOfIt = (): Promise<void> => saving.giveUp()

  return {
    id, document, live, working, camera, shown, recalled, changed, canUndo, canRedo, canBack, canForward, saveState, savedAt, problem, theirs, unsaved,
    run, clearNearCut, move, show, settle, letGo, undoEdit, undoOfThis, redoEdit, trail, save, open, close, takeTheirs, keepAsCopy, letGoOfIt,
  } // prettier-ignore
})

function damagedText({ damaged, savedAt }: OpenedProject): string {
  const at = new Date(savedAt).toLocaleString([], { day: 'numeric', month: 'long', hour: '2-digit', minute: '2-digit' })
  return `The newest version (${damaged!.newest}) of this project is damaged: ${damaged!.because} What you see is version ${damaged!.shown}, saved ${at}. Your next change is saved after both.`
}
