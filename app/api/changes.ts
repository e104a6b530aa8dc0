// Changes of projects as the server tells them. One stream serves all tabs of a browser: a browser opens six connections to a server,
// and a stream a tab would leave none for the seventh.

import type { Change } from '#model'

export type Told =
  | Change
  /** All projects there are, when the stream begins or comes back. */
  | {
      readonly kind: 'all'
      readonly projects: readonly { readonly id: string; readonly revision: number; readonly savedAt: string }[]
    }

const NAME = 'yoroi-changes'

/** Calls `told` for each change from now on, as long as the page is open. Does nothing where there are no streams. */
export function watchChanges(told: (change: Told) => void): void {
  if (typeof EventSource === 'undefined' || typeof BroadcastChannel === 'undefined') return
  const others = new BroadcastChannel(NAME)
  others.addEventListener('message', (e: MessageEvent<Told>) => told(e.data))
  const stream = (): void => {
    const source = new EventSource('/api/changes')
    source.addEventListener('message', (e: MessageEvent<string>) => {
      const change = JSON.parse(e.data) as Told
      others.postMessage(change)
      told(change)
    })
  }
  // whoever holds the lock has the stream; it goes to another tab when this one goes
  if (!navigator.locks) stream()
  else
    void navigator.locks.request(NAME, () => {
      stream()
      return new Promise<never>(() => undefined)
    })
}
