// Door of sections: what cuts take away, and what is shown.
export { isCutAway, isRemoved, type Cut } from './cuts.ts'
export { ALL_SHOWN, isBetweenCuts, sightAlong, sightThrough, type Shown, type Sight } from './shown.ts'
