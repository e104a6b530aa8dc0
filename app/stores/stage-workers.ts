// The two workers behind the stage store: the stage that draws and the geometry that answers rays; started once.
import { createStage, type StageClient } from '#stage'
import { createGeometry, type GeometryClient } from '#workers'

export function createWorkers() {
  let stage: StageClient | null = null
  let geometry: GeometryClient | null = null
  let starting: Promise<{ stage: StageClient; geometry: GeometryClient }> | null = null
  /** Both, started once; a start that failed may be tried again. */
  function clients(): Promise<{ stage: StageClient; geometry: GeometryClient }> {
    starting ??= createStage().then(
      (s) => {
        stage = s
        geometry = createGeometry()
        // cut faces go from one to the other, past the page
        const { port1, port2 } = new MessageChannel()
        s.connect(port1)
        geometry.connect(port2)
        return { stage: s, geometry }
      },
      (e: unknown) => {
        starting = null
        throw e
      },
    )
    return starting
  }
  /** Starts the workers ahead of the first model: their scripts load while the project is fetched. */
  const warm = (): void => void clients().catch(() => undefined)
  return { clients, warm, stageNow: () => stage, geometryNow: () => geometry }
}
export type Workers = ReturnType<typeof createWorkers>
