// Lengths measured in the photograph, with their plus and minus.
import { createSharedComposable } from '@vueuse/core'
import { computed } from 'vue'
import { lengthAlong, type LengthTold } from '#core/match'
import { formatWithSigma, type Result } from '#core/base'
import { bundleDirection } from '#model/photo'
import { useProject } from '../stores/project.ts'
import { useMatch } from './match.ts'

function measures() {
  const project = useProject()
  const { match, solved } = useMatch()
  /** The ground that lengths begin on: where the scale lies. */
  const groundM = computed(() => match.value?.scale?.at[2] ?? 0)
  const told = computed(() => {
    const m = match.value
    const s = solved.value
    const out = new Map<string, Result<LengthTold, string>>()
    if (!m || !s?.tellsStation) return out
    for (const x of m.measures ?? []) {
      const bundle = m.bundles.find((b) => b.id === x.bundleId)
      if (!bundle) continue
      const { from, to } = x
      out.set(
        x.id,
        lengthAlong({
          ...{ estimate: s.estimate, covariance: s.covariance, sigmaPx: s.sigmaPx, from, to },
          direction: bundleDirection(bundle),
          on: x.on ?? { point: [0, 0, groundM.value], normal: [0, 0, 1] },
        }),
      )
    }
    return out
  })
  const texts = computed(() => {
    const out = new Map<string, string>()
    for (const m of match.value?.measures ?? []) {
      const t = told.value.get(m.id)
      out.set(
        m.id,
        !t
          ? 'no scale yet'
          : t.ok
            ? formatWithSigma(t.value.lengthM, t.value.sdM, project.document?.unit ?? 'm')
            : t.message,
      )
    }
    return out
  })
  return { told, texts, groundM }
}
export const useMeasures = createSharedComposable(measures)
