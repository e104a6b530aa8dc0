// Door of core/route: where walks lead, and when they are where.
export { bendFromAbove, routeThrough, type Route, type RoutePlace, type RouteReason } from './route.ts'
export { paceOf, type LegAsked, type Moment, type Pace, type PaceAsked } from './pace.ts'
