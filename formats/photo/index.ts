// Door of formats/photo: what kind of picture a file is, how large, and whether it is whole.
export { MOST_MEGAPIXELS, readPhotoHeader, type HeaderReason, type PhotoHeader } from './header.ts'
export { isPhotoName, PHOTO_ENDINGS, PHOTO_TYPES, photoTypeOf, type PhotoType } from './kinds.ts'
