// Which drawing comes next?
// Model: one task a key; a newer task under a key takes the place of the older, which then resolves false. The lowest priority
// number goes first, one step at a time; between steps the thread is free to receive newer requests.

/** A task as its own step sees it: it may change when its next turn comes. */
export interface Turn {
  priority: number
}

interface Task extends Turn {
  readonly key: string
  order: number
  readonly step: (me: Turn) => Promise<boolean>
  readonly settle: (done: boolean) => void
  readonly fail: (e: unknown) => void
}

export class TaskQueue {
  private readonly tasks = new Map<string, Task>()
  private running = false
  private count = 0

  /** Runs `step` until it returns true; resolves true at its end, false when replaced or cancelled, rejects when a step throws. */
  run(key: string, priority: number, step: (me: Turn) => Promise<boolean>): Promise<boolean> {
    this.cancel(key)
    return new Promise((settle, fail) => {
      this.tasks.set(key, { key, priority, order: this.count++, step, settle, fail })
      void this.drain()
    })
  }

  cancel(key: string): void {
    const t = this.tasks.get(key)
    this.tasks.delete(key)
    t?.settle(false)
  }
  cancelAll(): void {
    for (const key of [...this.tasks.keys()]) this.cancel(key)
  }

  private async drain(): Promise<void> {
    if (this.running) return
    this.running = true
    try {
      for (;;) {
        await nextTurn()
        const task = [...this.tasks.values()].sort((a, b) => a.priority - b.priority || a.order - b.order)[0]
        if (!task) return
        let done = false
        try {
          done = await task.step(task)
          // equals take turns
          task.order = this.count++
        } catch (e) {
          if (this.tasks.get(task.key) === task) this.tasks.delete(task.key)
          task.fail(e)
          continue
        }
        if (done && this.tasks.get(task.key) === task) {
          this.tasks.delete(task.key)
          task.settle(true)
        }
      }
    } finally {
      this.running = false
    }
  }
}

/** Lets messages that arrived meanwhile be handled first. */
const nextTurn = (): Promise<void> =>
  new Promise((resolve) => {
    const { port1, port2 } = new MessageChannel()
    port1.onmessage = () => {
      port1.close()
      resolve()
    }
    port2.postMessage(0)
  })
