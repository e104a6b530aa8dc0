// What became of projects, told to whoever listens: saved as a revision, or deleted.
import { EventEmitter } from 'node:events'
import type { Change } from '#model'

export class Changes {
  private readonly events = new EventEmitter<{ change: [Change]; end: [] }>().setMaxListeners(0)

  tell(change: Change): void {
    this.events.emit('change', change)
  }
  /** Calls `told` for each change, and `ended` once when the server stops. Returns what ends the listening. */
  listen(told: (change: Change) => void, ended: () => void): () => void {
    this.events.on('change', told)
    this.events.once('end', ended)
    return () => {
      this.events.off('change', told)
      this.events.off('end', ended)
    }
  }
  end(): void {
    this.events.emit('end')
  }
}
