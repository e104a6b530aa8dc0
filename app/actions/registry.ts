// Everything that can be done by name: one list feeds the keys, the help and the command list. A room offers its own.
import { useLocalStorage } from '@vueuse/core'
import { computed, onScopeDispose, shallowRef, type ComputedRef } from 'vue'

export interface Action {
  readonly id: string
  readonly label: string
  /** Heading in the list. */
  readonly group: string
  /** As shown; single letters can be switched off, combinations with Ctrl never. */
  readonly key: string | null
  readonly enabled: () => boolean
  readonly run: () => void
}

/** An action; always possible and without a key unless said otherwise. */
export const action = (
  id: string,
  label: string,
  run: () => unknown,
  { key, enabled = () => true }: { readonly key?: string; readonly enabled?: () => boolean } = {},
): Action => ({ id, label, group: '', key: key ?? null, enabled, run: () => void run() })

/** The same actions under a heading. */
export const grouped = (group: string, actions: readonly Action[]): Action[] => actions.map((a) => ({ ...a, group }))

const offered = shallowRef<() => readonly Action[]>(() => [])
/** What can be done now. */
export const useActions = (): ComputedRef<readonly Action[]> => computed(() => offered.value())
/** Offers a room's actions for as long as it is open. */
export function offerActions(actions: () => readonly Action[]): void {
  offered.value = actions
  onScopeDispose(() => offered.value === actions && (offered.value = () => []))
}
const USED_MOST = 5
const used = useLocalStorage<string[]>('yoroi.used', [])
/** Ids of what was chosen from the list, the last first. */
export const useUsed = (): typeof used => used
export const remember = (id: string): void =>
  void (used.value = [id, ...used.value.filter((u) => u !== id)].slice(0, USED_MOST))

const SIGNS: Record<string, string> = { ArrowUp: '↑', ArrowDown: '↓', ArrowLeft: '←', ArrowRight: '→' }
/** A key as it is written on keyboards. */
export const shownKey = (key: string): string => key.replace(/Arrow\w+/, (name) => SIGNS[name] ?? name)

/** The key as the list writes it, from an event. */
export function keyOf(e: KeyboardEvent): string {
  if (e.key === '?') return 'F1'
  const name = e.key.length === 1 ? e.key.toUpperCase() : e.key
  const letter = /^[A-Z]$/.test(name) || name.length > 1
  const shift = e.shiftKey && letter ? 'Shift+' : ''
  return `${e.ctrlKey || e.metaKey ? 'Ctrl+' : ''}${shift}${name}`
}

/** Kinds of input that no text is typed into. */
const WITHOUT_TEXT = new Set(['checkbox', 'radio', 'range', 'button', 'submit', 'reset', 'color', 'file', 'image'])
const isClosedList = (e: Element): boolean =>
  e.getAttribute('role') === 'combobox' &&
  e.getAttribute('aria-expanded') !== 'true' &&
  !(e instanceof HTMLInputElement)

/** Whether keys pressed here are text, or choose from an open list or menu. */
export function takesText(target: EventTarget | null): boolean {
  const own = target instanceof Element && target.closest('input, textarea, select, [contenteditable], [role=combobox], [role=listbox], [role=menu]') // prettier-ignore
  if (!own) return false
  if (own instanceof HTMLInputElement) return !WITHOUT_TEXT.has(own.type)
  return !isClosedList(own)
}
/** A closed drop-down: it would open at any letter, so commands must be asked first. */
export const isClosedDropDown = (target: EventTarget | null): boolean =>
  target instanceof Element && isClosedList(target)

/** Runs the action of a key wherever focus is, unless text is typed there, a dialog is open, or letters are switched off. */
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
  // a number that nobody is typing at has nothing of its own to undo
  const untyped = e.target instanceof HTMLElement && e.target.dataset['untyped'] !== undefined && /^Ctrl\+(Shift\+)?Z$/.test(key) // prettier-ignore
  if (takesText(e.target) && !untyped && key !== 'Ctrl+K' && key !== 'Ctrl+S' && key !== 'F1') return false
  e.preventDefault()
  if (action.enabled()) action.run()
  return true
}
