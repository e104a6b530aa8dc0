// Colour tables of the project: brought in from a .cube file, chosen for the finish, taken out.
import { computed, ref } from 'vue'
import type { Command, TableRef } from '#model'
import { readTable } from '#workers'
import { newId, useProject } from '../../stores/project.ts'
import { useExposure } from './exposure.ts'

/** Longer files are no tables. */
const MOST_BYTES = 64e6
const MOST_TABLES = 8

export function useTables() {
  const project = useProject()
  const { part, set } = useExposure()
  /** Why a file was not taken, or what was done with it. */
  const said = ref('')
  const list = computed<readonly TableRef[]>(() => project.document?.tables ?? [])
  const finish = computed(() => part.value?.finish ?? { contrast: 1, saturation: 1 })
  const chosen = computed(() => list.value.find((t) => t.id === finish.value.table?.id) ?? null)
  /** A table that the finish names and the project has no more. */
  const isGone = computed(() => finish.value.table !== undefined && chosen.value === null)

  const withTables = (tables: readonly TableRef[]): Command => ({
    type: 'setProject',
    changes: { tables: [...tables] },
  })
  function choose(id: string | null): void {
    const { table: _, ...rest } = finish.value
    set({ finish: id === null ? rest : { ...rest, table: { id, strength: finish.value.table?.strength ?? 1 } } })
  }
  async function bring(file: File): Promise<void> {
    said.value = ''
    if (file.size > MOST_BYTES) return void (said.value = `${file.name} is too large for a colour table.`)
    const { id } = project
    const read = await readTable(file)
    if (project.id !== id) return
    if (!read.ok) return void (said.value = `${file.name} was not taken. ${read.message}`)
    const { data, size } = read
    const known = list.value.find((t) => t.data === data)
    if (!known && list.value.length >= MOST_TABLES)
      return void (said.value = `A project has ${MOST_TABLES} tables at most: take one out first.`)
    const name = (read.title || file.name.replace(/\.cube$/i, '')).slice(0, 200) || 'Table'
    const made = known ?? { id: newId(), name, size, data }
    if (!known && !project.run(withTables([...list.value, made]))) return
    choose(made.id)
    said.value = read.note
  }
  function takeOut(id: string): void {
    if (finish.value.table?.id === id) choose(null)
    project.run(withTables(list.value.filter((t) => t.id !== id)))
  }
  return { list, chosen, isGone, finish, said, choose, bring, takeOut }
}
