// Reading of colour tables in a worker: a thin door, no reading here.
import { expose } from 'comlink'
import { keptCube } from '#core/optics'
import type { TableDoor } from './contract.ts'

expose({ read: async (file) => keptCube(await file.text()) } satisfies TableDoor)
