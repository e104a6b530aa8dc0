// Bytes of models on their way to the stage: what is there already, what was just brought in, what has to be fetched.
import type { ModelRef } from '#model'
import type { StageModel } from '#stage'
import { api } from '../api/client.ts'

export function createBytes() {
  /** Content on the stage, by key. */
  const onStage = new Map<string, string>()
  /** Bytes that are here already, for the next load: a file just brought in need not be fetched again. */
  const offered = new Map<string, Uint8Array | Blob>()
  const offer = (sha256: string, bytes: Uint8Array | Blob): void => void offered.set(sha256, bytes)
  const isOn = (m: ModelRef): boolean => onStage.get(m.key) === m.sha256

  /** Bytes that were handed to the stage are here no longer. */
  function isHere(sha256: string): boolean {
    const o = offered.get(sha256)
    return o instanceof Blob || (o !== undefined && o.byteLength > 0)
  }
  /** GLBs of the models that the stage does not hold, fetched with progress (null where the total is not known). */
  async function fetched(models: readonly ModelRef[], told: (share: number | null) => void): Promise<StageModel[]> {
    const missing = models.filter((m) => !isOn(m) && !isHere(m.sha256))
    const total = missing.reduce((n, m) => n + m.sizeBytes, 0)
    let before = 0
    for (const m of missing) {
      const bytes = await api.asset(m.sha256, (done) => told(total > 0 ? (before + done * m.sizeBytes) / total : null))
      before += m.sizeBytes
      offered.set(m.sha256, bytes)
    }
    return models.map((placed) => ({
      placed,
      sha256: placed.sha256,
      bytes: isOn(placed) ? null : (offered.get(placed.sha256) ?? null),
    }))
  }
  /** The stage holds exactly these now. */
  function taken(models: readonly ModelRef[]): void {
    onStage.clear()
    for (const m of models) onStage.set(m.key, m.sha256)
    offered.clear()
  }
  return { offer, isOn, fetched, taken }
}
export type Bytes = ReturnType<typeof createBytes>
