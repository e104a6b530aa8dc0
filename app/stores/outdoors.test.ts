// @vitest-environment happy-dom
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { aimAt, type Setup } from '#model'
import { closeInMemory, openInMemory } from '../../tests/support/app.ts'
import { useOutdoors } from './outdoors.ts'
import { useProject } from './project.ts'
import { useStage } from './stage.ts'

const at = (x: number): Setup => ({ ...useProject().working!, stand: aimAt([x, 1, 1.6], [x + 3, 1, 1.6]) })
const turn = async (): Promise<void> => {
  for (let i = 0; i < 5; i++) await Promise.resolve()
}
let rays: ReturnType<typeof vi.spyOn>

beforeEach(async () => {
  await openInMemory()
  // the door is at x = 3
  rays = vi.spyOn(useStage().rays, 'underSky').mockImplementation(async (p) => p[0] > 3)
})
afterEach(closeInMemory)

describe('out of doors', () => {
  it('is asked of the rays once a place, and holds along a walk until the next answer is there', async () => {
    const outdoors = useOutdoors()
    expect(outdoors.isOutdoors(at(5))).toBe(false)
    await turn()
    expect(outdoors.isOutdoors(at(5))).toBe(true)
    expect(outdoors.isOutdoors(at(5.02))).toBe(true)
    expect(rays).toHaveBeenCalledTimes(1)
    // the next cell: not dark for a moment
    expect(outdoors.isOutdoors(at(5.3))).toBe(true)
    await turn()
    expect(outdoors.isOutdoors(at(1))).toBe(false)
    await turn()
    expect(outdoors.isOutdoors(at(1))).toBe(false)
  })
  it('takes an exposure of its own: metered, or the number typed for all of them; measured views too, a product never', async () => {
    const outdoors = useOutdoors()
    const parallel = { ...at(1), lens: { ...at(1).lens, projection: { kind: 'parallel' as const, widthM: 9 } } }
    expect(outdoors.appearance(parallel)).toMatchObject({ metered: true })
    const typed = { ...parallel, exposure: { ...parallel.exposure, outsideEv100: 12 } }
    expect(outdoors.appearance(typed).metered).toBeUndefined()
    expect(outdoors.appearance(typed).exposure.ev100).toBe(12)
    expect(outdoors.appearance(at(1)).exposure.ev100).toBe(at(1).exposure.ev100)
    useProject().run({ type: 'setProject', changes: { subject: 'product' } })
    expect(outdoors.appearance(parallel).metered).toBeUndefined()
  })
  it('is asked anew when the model changes', async () => {
    const outdoors = useOutdoors()
    outdoors.isOutdoors(at(5))
    await turn()
    useStage().epoch++
    await turn()
    expect(outdoors.isOutdoors(at(5))).toBe(false)
    await turn()
    expect(rays).toHaveBeenCalledTimes(2)
  })
})
