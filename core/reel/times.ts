// How are times of a reel written and read: as seconds, as frames, or as timecode?
// Model: timecode counts hours, minutes, seconds and frames, by the whole number of frames nearest to the rate, without leaving any out. A colon makes
// timecode of what is typed, an f frames, whatever is shown. Source: st12 (non-drop counting, from memory).
import { ok, parseQuantity, refused, type Result } from '../base/index.ts'

export const TIME_UNITS = ['seconds', 'frames', 'timecode'] as const
export type TimeUnit = (typeof TIME_UNITS)[number]

/** 00:00:03:12 at a rate; whole frames. */
export function timecode(timeS: number, fps: number): string {
  const frames = Math.round(timeS * fps)
  const rate = Math.round(fps)
  const two = (n: number): string => String(n).padStart(2, '0')
  const s = Math.floor(frames / rate)
  return `${two(Math.floor(s / 3600))}:${two(Math.floor(s / 60) % 60)}:${two(s % 60)}:${two(frames % rate)}`
}
export function timeText(timeS: number, unit: TimeUnit, fps: number, digits = 2): string {
  if (unit === 'timecode') return timecode(timeS, fps)
  return unit === 'frames' ? String(Math.round(timeS * fps)) : timeS.toFixed(digits)
}
export const timeSuffix = (unit: TimeUnit): string => ({ seconds: 's', frames: 'f', timecode: '' })[unit]

const CODE = /^(?:(?:(\d+):)?(\d+):)?(\d+):(\d+)$/
/** Seconds; a bare number is one of frames where these are shown, else of seconds. Refused with a sentence. */
export function parseTime(
  text: string,
  unit: TimeUnit,
  fps: number,
): Result<number, 'empty' | 'syntax' | 'unit' | 'not-finite'> {
  const clean = text.trim().toLowerCase()
  const code = CODE.exec(clean)
  if (code) {
    const [h, m, s, f] = code.slice(1).map((v) => Number(v ?? 0)) as [number, number, number, number]
    const rate = Math.round(fps)
    if (f >= rate) return refused('unit', `Frames go from 0 to ${rate - 1} at this rate.`)
    if (s >= 60 || m >= 60) return refused('unit', 'Minutes and seconds go to 59.')
    return ok((((h * 60 + m) * 60 + s) * rate + f) / fps)
  }
  if (clean.includes(':')) return refused('syntax', 'Timecode is hours:minutes:seconds:frames, or the last of them.')
  const named = /^(.*?)\s*(f|frames?|s|sec|seconds?|min)$/.exec(clean)
  const r = parseQuantity(named?.[1] ?? clean, 'plain')
  if (!r.ok) return r
  const by = named?.[2]?.[0] ?? (unit === 'frames' ? 'f' : 's')
  return ok(by === 'f' ? r.value / fps : by === 'm' ? r.value * 60 : r.value)
}
