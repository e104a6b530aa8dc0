// Long lists of numbers that grow as a file is read, and the words of a text, one line after the other.

/** A growing list of doubles; coordinates of surveyed sites need them. */
export class Doubles {
  private data = new Float64Array(1024)
  length = 0
  push(v: number): void {
    if (this.length === this.data.length) {
      const wider = new Float64Array(this.data.length * 2)
      wider.set(this.data)
      this.data = wider
    }
    this.data[this.length++] = v
  }
  at(i: number): number {
    return this.data[i]!
  }
  values(): Float64Array {
    return this.data.subarray(0, this.length)
  }
}

/** Calls `line` with each line and its number from 1; ends are LF, CR LF or CR alone. Linear. */
export function eachLine(text: string, line: (text: string, number: number) => void): void {
  let from = 0
  for (let number = 1; from <= text.length; number++) {
    let to = from
    while (to < text.length && text.charCodeAt(to) !== 10 && text.charCodeAt(to) !== 13) to++
    line(text.slice(from, to), number)
    from = to + (text.charCodeAt(to) === 13 && text.charCodeAt(to + 1) === 10 ? 2 : 1)
  }
}

/** The words of a text one after the other, split at white space; null at its end. Linear: no pattern that could run wild. */
export function wordReader(text: string): () => string | null {
  let at = 0
  return () => {
    while (at < text.length && text.charCodeAt(at) <= 32) at++
    const from = at
    while (at < text.length && text.charCodeAt(at) > 32) at++
    return from === at ? null : text.slice(from, at)
  }
}
export function words(text: string): string[] {
  const next = wordReader(text)
  const out: string[] = []
  for (let w = next(); w !== null; w = next()) out.push(w)
  return out
}

/** Text in the encodings that model files come in. */
export function textOf(bytes: Uint8Array): string {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return new TextDecoder('utf-16le').decode(bytes)
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return new TextDecoder('utf-16be').decode(bytes)
  return new TextDecoder('utf-8').decode(bytes)
}

/** A colour value as files write it (sRGB) as linear light. Source: iec61966-2-1. */
export const linearOf = (v: number): number => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4)
