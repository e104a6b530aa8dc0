// SVG paths of polylines.

/** A path through places times `k`; empty where there are fewer than two. */
export const pathOf = (places: readonly (readonly [number, number])[], k = 1): string =>
  places.length < 2 ? '' : places.map(([x, y], i) => `${i === 0 ? 'M' : 'L'}${x * k} ${y * k}`).join('')
