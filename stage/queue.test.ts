import { describe, expect, it } from 'vitest'
import { TaskQueue } from './queue.ts'

const steps = (log: string[], name: string, n: number) => {
  let i = 0
  return async (): Promise<boolean> => {
    log.push(`${name}${++i}`)
    return i >= n
  }
}

describe('the stage’s queue', () => {
  it('does the urgent first, step by step', async () => {
    const log: string[] = []
    const q = new TaskQueue()
    await Promise.all([
      q.run('still', 4, steps(log, 's', 2)),
      q.run('picture', 1, steps(log, 'p', 2)),
      q.run('plan', 2, steps(log, 'd', 1)),
    ])
    expect(log).toEqual(['p1', 'p2', 'd1', 's1', 's2'])
  })
  it('lets a newer request take the place of an older one of its kind', async () => {
    const log: string[] = []
    const q = new TaskQueue()
    const old = q.run('picture', 1, steps(log, 'a', 5))
    const now = q.run('picture', 1, steps(log, 'b', 2))
    expect(await old).toBe(false)
    expect(await now).toBe(true)
    expect(log).toEqual(['b1', 'b2'])
  })
  it('a task that lowered its own priority waits for others', async () => {
    const log: string[] = []
    const q = new TaskQueue()
    const p = q.run('picture', 1, async (me) => {
      log.push('p')
      me.priority = 9
      return log.length >= 3
    })
    await Promise.all([p, q.run('plan', 2, steps(log, 'd', 1))])
    expect(log).toEqual(['p', 'd1', 'p'])
  })
  it('equals take turns', async () => {
    const log: string[] = []
    const q = new TaskQueue()
    await Promise.all([q.run('picture', 3, steps(log, 'p', 3)), q.run('outside', 3, steps(log, 'o', 3))])
    expect(log).toEqual(['p1', 'o1', 'p2', 'o2', 'p3', 'o3'])
  })
  it('a replaced task that is still under way leaves its successor’s turn alone', async () => {
    const log: string[] = []
    const q = new TaskQueue()
    let goOn: () => void = () => undefined
    const old = q.run('picture', 1, async (me) => {
      await new Promise<void>((r) => (goOn = r))
      me.priority = 9
      return false
    })
    await new Promise((r) => setTimeout(r, 5))
    const now = q.run('picture', 1, steps(log, 'new', 1))
    const other = q.run('plan', 2, steps(log, 'plan', 1))
    goOn()
    expect(await old).toBe(false)
    await Promise.all([now, other])
    expect(log).toEqual(['new1', 'plan1'])
  })
  it('a failing step rejects its own task only; cancelled ones resolve false', async () => {
    const q = new TaskQueue()
    const bad = q.run('plan', 1, () => Promise.reject(new Error('no memory')))
    const log: string[] = []
    const good = q.run('side', 2, steps(log, 's', 1))
    await expect(bad).rejects.toThrow('no memory')
    expect(await good).toBe(true)
    const gone = q.run('still', 4, steps(log, 'x', 9))
    q.cancel('still')
    expect(await gone).toBe(false)
  })
})
