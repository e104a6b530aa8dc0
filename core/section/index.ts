// Door of sections: what cuts take away, and what is shown.
export { byMaterial, byStorey, SURROUNDINGS, type GroupedNode, type ObjectGroup } from './groups.ts'
export { isCutAway, isRemoved, type Cut } from './cuts.ts'
export { ALL_SHOWN, isBetweenCuts, sightAlong, sightThrough, type Shown, type Sight } from './shown.ts'
