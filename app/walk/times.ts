// Times as they are read: hours, minutes, seconds and frames.
/** 00:00:03:12 at a rate; whole frames. */
export function timecode(timeS: number, fps: number): string {
  const frames = Math.round(timeS * fps)
  // named by the whole number of frames a second, as the trade counts them
  const rate = Math.round(fps)
  const two = (n: number): string => String(n).padStart(2, '0')
  const s = Math.floor(frames / rate)
  return `${two(Math.floor(s / 3600))}:${two(Math.floor(s / 60) % 60)}:${two(s % 60)}:${two(frames % rate)}`
}
/** What is dragged from the list of viewpoints to the ruler. */
export const VIEWPOINT_DRAG = 'application/x-yoroi-viewpoint'
