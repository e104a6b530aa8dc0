// Bringing in, measured in the page: the whole way from a file to answered rays, against three's loader and trees alone.
import { wrap, type Remote } from 'comlink'
import { AT_ORIGIN, type PlacedModel } from '#core/placing'
import { createStage, type PictureRequest } from '#stage'
import { createGeometry, createImport } from '#workers'

const bytesOf = async (url: string): Promise<Uint8Array<ArrayBuffer>> =>
  new Uint8Array(await (await fetch(url)).arrayBuffer())
const placed = (key: string): PlacedModel => ({ key, unitM: 1, up: 'y', place: AT_ORIGIN, moved: [] })

/** Each read is another content to the stage. */
let count = 0

/** Gaps between animation frames, recorded until asked for. */
function gaps(): () => number[] {
  const found: number[] = []
  let last = performance.now()
  let on = true
  const tick = (t: number): void => {
    found.push(t - last)
    last = t
    if (on) requestAnimationFrame(tick)
  }
  requestAnimationFrame(tick)
  return () => {
    on = false
    return found.slice(2)
  }
}

export const bring = {
  /** Milliseconds from a file to answered rays, with the page's gaps and how often progress was told. */
  async yoroi(
    url: string,
  ): Promise<{ ms: number; longestGapMs: number; over50: number; told: number; parts: number[] }> {
    const bytes = await bytesOf(url)
    const file = new File([bytes], 'model.glb')
    const stage = await createStage()
    const geometry = createGeometry()
    await stage.load([])
    const client = createImport()
    // the workers' own start is not the reading
    await client.closedness()
    await geometry.closedness('')
    await new Promise((r) => setTimeout(r, 1500))
    const stop = gaps()
    let told = 0
    const start = performance.now()
    const read = await client.read(file, [], () => told++)
    client.dispose()
    const t1 = performance.now()
    await stage.load([{ placed: placed('model'), sha256: String(count++), bytes: read.glb }])
    const t2 = performance.now()
    const { soup, facts } = await stage.soup()
    const t3 = performance.now()
    await geometry.setScene(soup, facts, [0, 0, 0], 0)
    const parts = [t1 - start, t2 - t1, t3 - t2, performance.now() - t3]
    const ms = performance.now() - start
    const found = stop()
    stage.dispose()
    geometry.dispose()
    return { ms, longestGapMs: Math.max(...found), over50: found.filter((g) => g > 50).length, told, parts }
  },
  async bare(url: string): Promise<number> {
    const bytes = await bytesOf(url)
    const worker = new Worker(new URL('./bare-load.worker.ts', import.meta.url), { type: 'module' })
    const door: Remote<{ load(b: Uint8Array): Promise<number> }> = wrap(worker)
    // the worker's own start is not the loader's
    await new Promise((r) => setTimeout(r, 1500))
    const start = performance.now()
    await door.load(bytes)
    const ms = performance.now() - start
    worker.terminate()
    return ms
  },
  /** Memory of page and workers, bytes, and what the GL holds: with one model, and again after ten imports and removals. */
  async memory(
    baseUrl: string,
    url: string,
    look: PictureRequest,
  ): Promise<{ before: number; after: number; heldBefore: object; heldAfter: object }> {
    const measure = async (): Promise<number> => {
      const p = performance as unknown as { measureUserAgentSpecificMemory(): Promise<{ bytes: number }> }
      return (await p.measureUserAgentSpecificMemory()).bytes
    }
    const stage = await createStage()
    const geometry = createGeometry()
    const show = async (models: Parameters<typeof stage.load>[0]): Promise<void> => {
      await stage.load(models)
      const { soup, facts } = await stage.soup()
      await geometry.setScene(soup, facts, [0, 0, 0], 0)
      // drawn too, so that the GL holds it
      await stage.picture(look, (f) => f.bitmap.close())
    }
    const base = { placed: placed('base'), sha256: 'base', bytes: await bytesOf(baseUrl) }
    const kept = { ...base, bytes: null }
    const round = async (): Promise<void> => {
      const client = createImport()
      const read = await client.read(new File([await bytesOf(url)], 'model.glb'), [], () => undefined)
      client.dispose()
      await show([kept, { placed: placed('model'), sha256: String(count++), bytes: read.glb }])
      await show([kept])
    }
    await show([base])
    // once for what is made at the first time only
    await round()
    const before = await measure()
    const heldBefore = await stage.held()
    for (let i = 0; i < 10; i++) await round()
    const after = await measure()
    const heldAfter = await stage.held()
    stage.dispose()
    geometry.dispose()
    return { before, after, heldBefore, heldAfter }
  },
}
