// What both loupes share: how large they are, and how much of the photograph they show.
/** Page pixels. */
export const LOUPE_PX = 148
/** Photograph's pixels across. */
export const SEEN_PX = 21
