// The page's door to the worker that reads colour tables: one for each file, a large one takes a second.
import { wrap } from 'comlink'
import { keptCube, type KeptCube } from '#core/optics'
import type { TableDoor } from './contract.ts'

/** What a .cube file holds, as the document keeps it; or why it was not taken. Without workers it is read on the page. */
export async function readTable(file: File): Promise<KeptCube> {
  if (typeof Worker === 'undefined') return keptCube(await file.text())
  const worker = new Worker(new URL('./table.worker.ts', import.meta.url), { type: 'module' })
  const broken = new Promise<KeptCube>((resolve) =>
    worker.addEventListener('error', () => resolve({ ok: false, message: 'There is not enough memory to read it.' })),
  )
  try {
    return await Promise.race([wrap<TableDoor>(worker).read(file), broken])
  } catch {
    return { ok: false, message: 'It cannot be read from the disk. Pick it again.' }
  } finally {
    worker.terminate()
  }
}
