// Puts the demo into a fresh data folder: the two models as assets, the two projects with their pictures.

import { existsSync, readFileSync } from 'node:fs'
import { Readable } from 'node:stream'
import { newModel, type ModelRef } from '#model'
import type { Running } from '#server'
import { withHallReels, withLampTurntable } from './reels.ts'
import { withPhotos } from './photos.ts'
import { hallProject, lampProject } from './projects.ts'
import { hallModel, lampModel, type DemoModel } from './scenes.ts'

export const DEMO_IDS = { hall: 'demo-hall', lamp: 'demo-lamp' } as const

async function store(server: Running, model: DemoModel): Promise<ModelRef> {
  const asset = await server.assets.store({
    body: Readable.from([Buffer.from(model.bytes)]),
    mediaType: 'model/gltf-binary',
    fileName: model.fileName,
  })
  return newModel({ id: 'model-1', name: model.fileName, sha256: asset.sha256, sizeBytes: asset.sizeBytes })
}

async function cover(server: Running, id: string, file: string): Promise<void> {
  const path = new URL(`./covers/${file}`, import.meta.url)
  if (existsSync(path)) await server.projects.setCover(id, readFileSync(path), 'image/jpeg')
}

/** Stores the demo; the projects' ids are fixed so that docs and tests can link to them. */
export async function seedDemo(server: Running): Promise<void> {
  await server.projects.create(withLampTurntable(lampProject(await store(server, lampModel()))), DEMO_IDS.lamp)
  await cover(server, DEMO_IDS.lamp, 'lamp.jpg')
  const hall = withHallReels(hallProject(await store(server, hallModel())))
  await server.projects.create(await withPhotos(server, hall), DEMO_IDS.hall)
  await cover(server, DEMO_IDS.hall, 'hall.jpg')
}
