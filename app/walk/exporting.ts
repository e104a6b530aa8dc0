// The path goes out: a table or an animation of every frame of the reel at its rate.
import { framesOf } from '#core/reel'
import { pathCsv, pathGltf } from '#formats/path'
import { useNotices } from '../stores/notices.ts'
import { useFilm } from './film.ts'

function download(text: string, type: string, name: string): void {
  const url = URL.createObjectURL(new Blob([text], { type }))
  Object.assign(document.createElement('a'), { href: url, download: name }).click()
  setTimeout(() => URL.revokeObjectURL(url), 10_000)
}
const fileName = (name: string): string => name.replace(/[\\/:*?"<>|]+/g, ' ').trim() || 'Reel'

export function useExporting() {
  const { reel, part, fps, resolved } = useFilm()
  const notices = useNotices()
  function csv(): void {
    if (part.value) download(pathCsv(framesOf(reel.value, fps.value), fps.value), 'text/csv', `${fileName(part.value.name)}.csv`) // prettier-ignore
  }
  function gltf(): void {
    const frame = resolved.value?.setups[0]?.frame
    if (!part.value || !frame) return
    const { json, warnings } = pathGltf(framesOf(reel.value, fps.value), fps.value, frame, part.value.name)
    download(json, 'model/gltf+json', `${fileName(part.value.name)}.gltf`)
    for (const w of warnings) notices.say(w, 'warning')
  }
  return { csv, gltf }
}
