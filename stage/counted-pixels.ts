// Which pixels of a picture count where what is clipped and how bright it is are told?

/** Pixels that are the model's own: where a photograph shows nothing is exposed. One grey one where there are none. */
export function ownPixels(data: Uint8ClampedArray): Uint8ClampedArray {
  const own = new Uint8ClampedArray(data.length)
  let n = 0
  for (let i = 0; i < data.length; i += 4)
    if (data[i + 3]! > 127) {
      own.set(data.subarray(i, i + 4), n)
      n += 4
    }
  return n > 0 ? own.subarray(0, n) : Uint8ClampedArray.of(128, 128, 128, 255)
}

/** The pixels within the frame of a picture that shows so much more on every side. */
export function innerOf({ width, height, data }: ImageData, past: number): Uint8ClampedArray {
  const part = past / (1 + 2 * past)
  const [x, y] = [Math.round(width * part), Math.round(height * part)]
  const inner = new Uint8ClampedArray((width - 2 * x) * (height - 2 * y) * 4)
  for (let row = y; row < height - y; row++)
    inner.set(data.subarray((row * width + x) * 4, ((row + 1) * width - x) * 4), (row - y) * (width - 2 * x) * 4)
  return inner
}
