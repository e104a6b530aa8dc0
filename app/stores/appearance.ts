import { ALL_SHOWN, type ClassesByHand, type Shown } from '#core/section'
import { exposureValue100 } from '#core/optics'
import { getPart, shownOf, STAGE_PARTS, type Photo, type Setup, type TableRef } from '#model'
import type { Appearance } from '#stage'

/** What belongs to the project or is worked out from the Setup. */
interface Beside {
  readonly classes?: ClassesByHand | undefined
  readonly blur?: Appearance['blur'] | undefined
  readonly tables?: readonly TableRef[] | undefined
  readonly photos?: readonly Photo[] | undefined
}

/** What the stage is handed: what is shown, and the parts that the registry marks for it. Out of doors by an exposure of its own. */
export function appearanceOf(
  setup: Setup,
  isOutdoors = false,
  { classes, blur, tables, photos }: Beside = {},
): Appearance {
  const parts = Object.fromEntries(STAGE_PARTS.map((p) => [p, getPart(setup, p)]))
  const wanted = setup.exposure.finish?.table
  const table = wanted && tables?.find((t) => t.id === wanted.id)
  const photo = behindOf(setup, photos)
  const beside = {
    ...(photo && { photo }),
    ...(classes && { classes }),
    ...(blur && { blur }),
    ...(table && { table }),
  }
  // what lies over the frame is no part of the picture
  const { over: _, ...backdrop } = setup.look.backdrop
  const plain = { shown: shownOf(setup), ...parts, 'look.backdrop': backdrop, ...beside } as unknown as Appearance
  const exposure = { ...plain.exposure, ev100: evOf(setup) }
  if (setup.exposure.mode === 'photographic') return { ...plain, exposure }
  if (!isOutdoors) return plain
  const own = setup.exposure.outsideEv100
  return own === undefined ? { ...plain, metered: true } : { ...plain, exposure: { ...plain.exposure, ev100: own } }
}

/** The photograph behind a Setup's picture; undefined where there is none, or it is gone. */
function behindOf({ look }: Setup, photos: readonly Photo[] = []): Appearance['photo'] {
  const { kind, photoId } = look.backdrop
  const photo = kind === 'photo' ? photos.find((p) => p.id === photoId) : undefined
  if (!photo) return undefined
  const { match, sha256, widthPx, heightPx } = photo
  const masks = (match.masks ?? []).map((m) => ({
    points: m.points.map(([x, y]) => [x / widthPx, y / heightPx] as const),
    soft: m.softPx / widthPx,
  }))
  const { groundM } = look.backdrop
  return { sha256, masks, ...(groundM !== undefined && { groundM }) }
}

/** EV at ISO 100 that a Setup exposes by, before compensation: its own number, or that of ISO, shutter and aperture. */
export function evOf({ exposure: e, focus }: Pick<Setup, 'exposure' | 'focus'>): number {
  if (e.mode === 'direct') return e.ev100
  return exposureValue100({ fNumber: e.fNumber ?? focus.fNumber, shutterS: e.shutterS, iso: e.iso })
}

/**
 * What the light from all sides meets otherwise than in the file: what cuts that let it in take away, and what stands elsewhere (of a Setup as it is
 * shown). Nothing else of what is shown matters to it.
 */
export function openedBy(setup: Pick<Setup, 'cut' | 'visible'>): Shown | null {
  const { moved, cuts } = shownOf(setup)
  const { lightIn, list, whole } = cuts
  const isCut = lightIn && list.length > 0
  if (!isCut && !moved) return null
  return {
    hidden: [],
    ...(moved && { moved }),
    cuts: isCut ? { nearM: null, farM: null, list, ...(whole && { whole }) } : ALL_SHOWN.cuts,
  }
}
