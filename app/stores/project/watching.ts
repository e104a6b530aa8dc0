// Another tab's saves of the project that is open here: told at once, before anything is done on an older version.
import { api } from '../../api/client.ts'
import { useNotices } from '../notices.ts'
import type { Saving } from './saving.ts'

export function watchOthers(saving: Saving, takeTheirs: () => Promise<void>): void {
  const notices = useNotices()
  const show = (): void => void takeTheirs().catch((e: unknown) => notices.fail(e))
  api.changes((change) => {
    void saving.elsewhere(change).then((is) => {
      if (is !== 'behind') return
      const text = 'This project was just saved in another tab. You see the version before.'
      notices.say(text, 'warning', { label: 'Show that version', run: show })
    })
  })
}
