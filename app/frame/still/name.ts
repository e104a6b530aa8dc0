// What is a saved picture called?

/** A file name from the project and the viewpoint, safe on every disk. */
export function pictureName(project: string, viewpoint: string | null): string {
  const clean = (s: string): string => s.replace(/[^\p{L}\p{N} ._-]+/gu, '').trim().replace(/\s+/g, '-').slice(0, 60) // prettier-ignore
  return [clean(project) || 'picture', viewpoint ? clean(viewpoint) : ''].filter(Boolean).join('_') + '.png'
}
