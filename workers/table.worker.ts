// Reading of colour tables in a worker: a thin door, no reading here.
import { expose } from 'comlink'
import { packTable, readCube } from '#core/optics'
import type { TableDoor } from './contract.ts'

expose({
  async read(file) {
    const read = readCube(await file.text())
    return read.ok
      ? { ok: true, size: read.table.size, data: packTable(read.table), title: read.title, note: read.note }
      : read
  },
} satisfies TableDoor)
