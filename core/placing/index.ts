// Door of placing: where models stand in a project, and how a newer file's objects are matched.
export { AT_ORIGIN, type ObjectMove, type PlacedModel, type Placement } from './types.ts'
export { boxInMetres, centreWithOffset, modelKey, placedPoint, replaced, standingOn, type Aimable } from './place.ts'
export { matchNodes, type NamedNode, type NodeMatch } from './match.ts'
export { guessUnit, statedUnit, UNIT_M, type GuessInput, type FileUnit, type FileUnitGuess } from './guess.ts'
export { OWN_UNITS_LIMIT, firstPlace, WORLD_LIMIT_M } from './limits.ts'
export { isNought, originOf, shiftedBox, shiftedCamera, shiftedPoint, shiftedStand } from './origin.ts'
