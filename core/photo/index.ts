// Door of core/photo: what a photograph shows by itself (edges, bundles of them) and what its tags say of its lens.
export { refinedEdge, type RefinedEdge } from './edge.ts'
export { findSegments, type FoundSegment, type Grey } from './segments.ts'
export { suggestBundles, type SuggestedBundle } from './suggest.ts'
export {
  focalFromTags,
  focalSentence,
  type FocalFrom,
  type FocalTold,
  type PhotoTags,
  type TagsReason,
} from './tags.ts'
