// What is a saved picture called?
// Model: the viewpoint's name (the project's where there is none), then a number where another picture of the project has that name.

/** Pictures that a project's names were given to, by name: what each shows, in the order of saving. */
export type Given = Readonly<Record<string, readonly string[]>>
/** As many are remembered a name. */
const REMEMBERED = 500

/** A name safe on every disk: letters, digits, point, dash and line. */
const clean = (s: string): string => s.replace(/[^\p{L}\p{N} ._-]+/gu, '').trim().replace(/\s+/g, '-').slice(0, 80) // prettier-ignore

/** The file's name for what `shows` stands for, the same for the same again; and what is given then. */
export function pictureName(
  name: string,
  shows: string,
  given: Given,
): { readonly file: string; readonly given: Given } {
  const base = clean(name) || 'picture'
  const before = Object.hasOwn(given, base) ? given[base]! : []
  const known = before.indexOf(shows)
  const at = known >= 0 ? known : before.length
  const file = `${base}${at > 0 ? `-${at + 1}` : ''}.png`
  return { file, given: known >= 0 ? given : { ...given, [base]: [...before, shows].slice(0, REMEMBERED) } }
}
