// Short messages to the person: what happened, what it means, what to do; some can be undone from there.
import { defineStore } from 'pinia'
import { ref } from 'vue'
import { AppError, ERRORS } from '#core/base'

export interface Notice {
  readonly id: number
  readonly text: string
  readonly kind: 'plain' | 'warning' | 'error'
  readonly action: NoticeAction | null
  /** A question has a second answer. */
  readonly other: NoticeAction | null
}
export interface NoticeAction {
  readonly label: string
  readonly run: () => void
}
const SHOWN_MS = { plain: 5000, warning: 6000, error: 12_000 } as const
const QUESTION_MS = 20_000

export const useNotices = defineStore('notices', () => {
  const list = ref<Notice[]>([])
  let count = 0

  function say(
    text: string,
    kind: Notice['kind'] = 'plain',
    action: NoticeAction | null = null,
    other: NoticeAction | null = null,
  ): void {
    // the same words again only refresh the time
    list.value = [...list.value.filter((n) => n.text !== text), { id: ++count, text, kind, action, other }].slice(-3)
    const mine = count
    setTimeout(() => drop(mine), other ? QUESTION_MS : SHOWN_MS[kind])
  }
  function drop(id: number): void {
    list.value = list.value.filter((n) => n.id !== id)
  }
  function fail(e: unknown): void {
    say(failureText(e), 'error')
  }
  return { list, say, drop, fail }
})

/** What happened and what to do, never a stack or a bare code. */
export function failureText(e: unknown): string {
  if (e instanceof AppError) return [ERRORS[e.code].what, e.detail, ERRORS[e.code].todo].filter(Boolean).join(' ')
  return 'Something went wrong. Reload the page; everything saved is safe.'
}
