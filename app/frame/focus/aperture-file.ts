// A grey picture from a file as the aperture's shape: read small, black about it, kept in the project.
import { aperturePicture, encodedPicture, PICTURE_SIDE } from '#core/optics'

const MOST_BYTES = 40e6

/** The picture as the document keeps it, or why it is not one. */
export async function apertureFrom(file: File): Promise<{ readonly picture: string } | { readonly message: string }> {
  if (file.size > MOST_BYTES) return { message: `${file.name} is too large for an aperture.` }
  let image: ImageBitmap
  try {
    image = await createImageBitmap(file)
  } catch {
    return { message: `${file.name} is no picture that this browser can read. The aperture stays as it was.` }
  }
  const side = PICTURE_SIDE.made
  const canvas = new OffscreenCanvas(side, side)
  const g = canvas.getContext('2d', { willReadFrequently: true })!
  g.fillStyle = '#000'
  g.fillRect(0, 0, side, side)
  g.imageSmoothingQuality = 'high'
  const k = side / Math.max(image.width, image.height)
  const [w, h] = [image.width * k, image.height * k]
  g.drawImage(image, (side - w) / 2, (side - h) / 2, w, h)
  image.close()
  const { data } = g.getImageData(0, 0, side, side)
  const grey = Uint8Array.from({ length: side * side }, (_, i) =>
    Math.round(0.2126 * data[i * 4]! + 0.7152 * data[i * 4 + 1]! + 0.0722 * data[i * 4 + 2]!),
  )
  const picture = encodedPicture(grey)
  if (!aperturePicture({ picture })) return { message: `${file.name} is black: nothing would come through it. The aperture stays as it was.` } // prettier-ignore
  return { picture }
}
