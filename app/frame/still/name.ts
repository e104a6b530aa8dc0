// What is a saved picture called?

/**
 * A file name from the project and the viewpoint, safe on every disk; a framing that no viewpoint keeps is told by the moment it was
 * saved, so that two of them never share a name.
 */
export function pictureName(project: string, viewpoint: string | null, unkept: Date | null = null): string {
  const clean = (s: string): string => s.replace(/[^\p{L}\p{N} ._-]+/gu, '').trim().replace(/\s+/g, '-').slice(0, 60) // prettier-ignore
  return (
    [clean(project) || 'picture', viewpoint ? clean(viewpoint) : '', unkept ? moment(unkept) : '']
      .filter(Boolean)
      .join('_') + '.png'
  )
}

/** Local time, in an order that sorts. */
function moment(t: Date): string {
  const two = (n: number): string => String(n).padStart(2, '0')
  const day = [t.getFullYear(), two(t.getMonth() + 1), two(t.getDate())].join('-')
  return `${day}_${two(t.getHours())}${two(t.getMinutes())}${two(t.getSeconds())}`
}
