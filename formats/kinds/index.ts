// Door of formats/kinds: which files are models, told by name alone. Apart from the readers, so that the page need not load them.

/** Endings of files that are models by themselves; others picked with them are parts of them. */
export const MODEL_ENDINGS = ['glb', 'gltf', 'obj', 'stl', 'ply'] as const

export const endingOf = (name: string): string => name.slice(name.lastIndexOf('.') + 1).toLowerCase()
export const isModelName = (name: string): boolean => (MODEL_ENDINGS as readonly string[]).includes(endingOf(name))
