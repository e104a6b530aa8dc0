// Door of core/framing: straightening.
export { levelKeepingCentre, type LevelOptions, type LevelReason } from './level.ts'
export { convergence, type Convergence, type ConvergenceOptions } from './convergence.ts'
