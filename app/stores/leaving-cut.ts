// The near cut of standing back belongs to its framing: a viewpoint that keeps no cut offers to leave it.
import { findViewpoint, type Command } from '#model'
import { useNotices } from './notices.ts'
import { useProject } from './project.ts'

/** Takes a near cut that standing back made away, as one edit. */
export function clearNearCut(): void {
  const project = useProject()
  const cut = project.working?.cut
  if (!cut?.near.on) return
  const { madeBy: _, ...near } = cut.near
  project.run({ type: 'setPart', part: 'cut', value: { ...cut, near: { ...near, on: false } } })
}

/** After a recall: says that the cut is still there, where the viewpoint keeps none. */
export function offerToLeaveCut(command: Command): void {
  if (command.type !== 'recall') return
  const { document: doc } = useProject()
  const vp = doc && findViewpoint(doc, command.viewpointId)
  if (!doc || !vp || vp.parts.cut || !doc.working.cut.near.on || !doc.working.cut.near.madeBy) return
  useNotices().say(`“${vp.name}” keeps no cut: the near cut of standing back still holds.`, 'plain', {
    label: 'Leave the cut',
    run: clearNearCut,
  })
}
