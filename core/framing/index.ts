// Door of core/framing: straightening and fitting.
export { levelKeepingCentre, type LevelOptions, type LevelReason } from './level.ts'
export { convergence, type Convergence, type ConvergenceOptions } from './convergence.ts'
export { fitPoints, type FitOptions, type FitReason, type Sides } from './fit.ts'
