// What became of a project, as the server tells it.

/** `saveId` is the sender's own name for the save, by which it knows it again. */
export type Change =
  | {
      readonly kind: 'saved'
      readonly id: string
      readonly revision: number
      readonly savedAt: string
      readonly saveId: string | null
    }
  | { readonly kind: 'deleted'; readonly id: string }
