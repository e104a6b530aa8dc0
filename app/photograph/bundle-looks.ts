// Bundles are told apart by letter, dashes and tone, never by tone alone.
const DASHES = ['', '9 4', '2 3', '12 3 2 3', '5 3', '1 4', '14 4', '6 2 2 2'] as const
export interface BundleLook {
  readonly letter: string
  readonly dash: string
  readonly tone: string
}
export const bundleLook = (index: number): BundleLook => ({
  letter: String.fromCharCode(65 + (index % 26)),
  dash: DASHES[index % DASHES.length]!,
  tone: `var(--bundle-${(index % 4) + 1})`,
})
