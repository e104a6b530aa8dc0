// How is the cut face of a material hatched?
// Model: each material belongs to a class; a class is one or two sets of parallel lines, told in shares of the hatching's distance. What
// class a name is of is proposed from the words in it. Source: iso128-3 (hatching: thin lines at 45 degrees, neighbours turned or
// spaced otherwise); which class has which lines is common practice of building drawings.

/** In the order of the pictures of the stage's shader; the last one is what no name tells of. */
export const MATERIAL_CLASSES = [
  'masonry',
  'concrete',
  'stone',
  'plaster',
  'timber',
  'metal',
  'glass',
  'insulation',
  'earth',
  'other',
] as const
export type MaterialClass = (typeof MATERIAL_CLASSES)[number]
/** Classes set by hand, by the material's name. */
export type ClassesByHand = Readonly<Record<string, MaterialClass>>

/** Parallel lines of a hatching. */
export interface HatchLines {
  /** Counterclockwise from the drawing's right. */
  readonly angleDeg: number
  /** Between the lines, in shares of the hatching's distance. */
  readonly spacing: number
  /** So far from where they would lie, in shares of their own spacing. */
  readonly offset: number
  /** Drawn and repeated after, in shares of the hatching's distance; null: lines without gaps. */
  readonly dash: readonly [number, number] | null
}
const lines = (
  angleDeg: number,
  spacing: number,
  offset = 0,
  dash: readonly [number, number] | null = null,
): HatchLines => ({ angleDeg, spacing, offset, dash })

/** One or two sets each. */
export const HATCHES: Readonly<Record<MaterialClass, readonly HatchLines[]>> = {
  masonry: [lines(45, 0.75)],
  concrete: [lines(45, 1.5), lines(45, 1.5, 0.5, [1, 1.6])],
  stone: [lines(45, 1, 0, [2.4, 3])],
  plaster: [lines(45, 0.5, 0, [0.14, 0.6])],
  timber: [lines(20, 0.5)],
  metal: [lines(45, 1), lines(45, 1, 0.28)],
  glass: [lines(60, 2, 0, [1.5, 2.5]), lines(60, 2, 0.25, [1.5, 2.5])],
  insulation: [lines(45, 1), lines(135, 1)],
  earth: [lines(45, 1, 0, [1.5, 2.2]), lines(135, 1, 0, [0.5, 2.2])],
  other: [lines(45, 1)],
}

/** Beginnings of words (whole ones where a space ends them) that tell of a class, in English, German, French and Spanish; the first class that has one is taken. */
const WORDS: readonly (readonly [MaterialClass, readonly string[]])[] = [
  ['insulation', ['insul', 'dämm', 'daemm', 'isol', 'aisl', 'wool', 'foam', 'schaum', 'mousse']],
  ['glass', ['glass', 'glas', 'glaz', 'verre', 'vitr', 'vidri', 'pane ', 'panes ']],
  ['masonry', ['brick', 'mason', 'block', 'ziegel', 'mauer', 'klinker', 'brique', 'maçon', 'ladrill', 'clay tile']],
  ['concrete', ['concret', 'cement', 'screed', 'beton', 'béton', 'estrich', 'chape', 'hormig', 'terrazzo']],
  ['plaster', ['plaster', 'gyps', 'stucco', 'render', 'putz', 'gips', 'plâtre', 'platre', 'enduit', 'yeso', 'drywall']],
  ['stone', ['stone', 'marbl', 'granit', 'slate', 'travert', 'limest', 'sandst', 'stein', 'schiefer', 'pierre', 'ardois', 'piedra', 'marm', 'tile', 'ceram', 'keram', 'porcel', 'fliese']], // prettier-ignore
  ['timber', ['timber', 'wood', 'oak', 'pine', 'spruce', 'fir ', 'ash ', 'beech', 'birch', 'larch', 'walnut', 'cedar', 'teak', 'maple', 'cherry', 'ply ', 'plywood', 'mdf ', 'osb ', 'veneer', 'parquet', 'board', 'holz', 'eiche', 'kiefer', 'fichte', 'buche', 'bois', 'chêne', 'chene', 'madera', 'cork', 'bamboo']], // prettier-ignore
  ['metal', ['metal', 'steel', 'iron', 'alumin', 'brass', 'copper', 'bronze', 'zinc', 'chrom', 'nickel', 'stahl', 'eisen', 'messing', 'kupfer', 'acier', 'fer ', 'laiton', 'cuivre', 'acero', 'hierro', 'galvan']], // prettier-ignore
  ['earth', ['earth', 'soil', 'ground', 'gravel', 'sand', 'erde', 'boden', 'kies', 'terre', 'tierra', 'grass', 'lawn']],
]

/** The class that a material's name speaks of: a word of it begins so, or a longer one has it within. `other` where none does. */
export function proposedClass(name: string): MaterialClass {
  const text = ` ${name.replace(/([a-z])([A-Z])/g, '$1 $2').toLowerCase().replace(/[^\p{L}]+/gu, ' ')} ` // prettier-ignore
  for (const [is, words] of WORDS) if (words.some((w) => text.includes(` ${w}`))) return is
  // run together, as in “sichtbeton”: only words that are long enough to mean nothing else
  for (const [is, words] of WORDS) if (words.some((w) => w.length >= 5 && text.includes(w))) return is
  return 'other'
}
/** Set by hand, else proposed from the name. */
export const classOf = (name: string, byHand: ClassesByHand = {}): MaterialClass =>
  Object.hasOwn(byHand, name) ? byHand[name]! : proposedClass(name)
