// Files dropped on a view: single files, several, or a folder with all that lies in it.
import { ref } from 'vue'
import { useBring } from './bring.ts'

const MOST_FILES = 500

async function filesOf(entry: FileSystemEntry, found: File[]): Promise<void> {
  if (found.length >= MOST_FILES) return
  if (entry.isFile) {
    found.push(await new Promise<File>((ok, no) => (entry as FileSystemFileEntry).file(ok, no)))
    return
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader()
  for (;;) {
    const some = await new Promise<FileSystemEntry[]>((ok, no) => reader.readEntries(ok, no))
    if (some.length === 0) return
    for (const e of some) await filesOf(e, found)
  }
}

async function dropped(data: DataTransfer): Promise<File[]> {
  // entries must be asked for before the first wait: the browser forgets the drop afterwards
  const entries = [...data.items].map((i) => i.webkitGetAsEntry?.() ?? null)
  const plain = [...data.files]
  if (!entries.some((e) => e?.isDirectory)) return plain
  const found: File[] = []
  for (const e of entries) if (e) await filesOf(e, found).catch(() => undefined)
  return found
}

/** Handlers for the element that takes drops; `over` while files hang over it. */
export function useDrop() {
  const bring = useBring()
  const over = ref(false)
  const hasFiles = (e: DragEvent): boolean => [...(e.dataTransfer?.types ?? [])].includes('Files')
  return {
    over,
    handlers: {
      dragover(e: DragEvent): void {
        if (!hasFiles(e)) return
        e.preventDefault()
        over.value = true
      },
      dragleave(e: DragEvent): void {
        if (
          e.currentTarget instanceof Node &&
          e.relatedTarget instanceof Node &&
          e.currentTarget.contains(e.relatedTarget)
        )
          return
        over.value = false
      },
      async drop(e: DragEvent): Promise<void> {
        if (!hasFiles(e)) return
        e.preventDefault()
        over.value = false
        if (e.dataTransfer) await bring.begin(await dropped(e.dataTransfer))
      },
    },
  }
}

/** Every ending that a picker offers: models and what may belong to them. */
export const PICKER_ACCEPT = '.glb,.gltf,.obj,.stl,.ply,.bin,.mtl,.png,.jpg,.jpeg,.webp'
