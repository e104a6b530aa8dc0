// Copying the whole stand and pasting it, or three numbers, back.
import { standMoved } from '#core/camera'
import type { Vec3 } from '#core/math'
import { WORLD_LIMIT_M } from '#core/placing'
import { standSchema } from '#model'
import { centreOf } from '../../stores/centres.ts'
import { useNotices } from '../../stores/notices.ts'
import { useProject } from '../../stores/project.ts'
import { useView } from '../../stores/view.ts'

export function useStandClipboard() {
  const project = useProject()
  const view = useView()
  const notices = useNotices()

  async function copy(): Promise<void> {
    const s = project.working?.stand
    if (!s) return
    try {
      await navigator.clipboard.writeText(JSON.stringify({ stand: s }))
      notices.say('The stand is on the clipboard: station, aim and roll.')
    } catch {
      notices.say('The browser does not let the page write to the clipboard.', 'warning')
    }
  }
  /** A copied stand, or three numbers as a station. */
  function paste(text: string): boolean {
    const s = project.working?.stand
    if (!s) return false
    const numbers = text
      .trim()
      .split(/[\s,;]+/)
      .map(Number)
    if (numbers.length === 3 && numbers.every(Number.isFinite)) {
      if (numbers.some((v) => Math.abs(v) > WORLD_LIMIT_M)) {
        notices.say(
          `A station lies within ${WORLD_LIMIT_M.toLocaleString('en')} m of the origin: nothing was pasted.`,
          'warning',
        )
        return false
      }
      const by = numbers.map((v, k) => v - s.station[k]!) as unknown as Vec3
      return project.move({ stand: standMoved(s, by, view.stationAlone, centreOf) }, 'Station pasted')
    }
    try {
      const found = standSchema.safeParse((JSON.parse(text) as { stand?: unknown }).stand)
      if (found.success) return project.move({ stand: found.data }, 'Stand pasted')
    } catch {
      // no JSON: told below
    }
    notices.say('The clipboard holds no stand and no three numbers.', 'warning')
    return false
  }
  async function pasteFromClipboard(): Promise<void> {
    try {
      paste(await navigator.clipboard.readText())
    } catch {
      notices.say('The browser does not let the page read the clipboard. Paste into the field instead.', 'warning')
    }
  }
  return { copy, paste, pasteFromClipboard }
}
