// Limits of the frame check that a project may set for itself, in one place.
// Source: practice where nothing else is said beside a check.

export interface Limit {
  readonly label: string
  readonly unit: '%' | 'px' | 'ratio' | 'mm' | 'deg'
  readonly value: number
  readonly min: number
  readonly max: number
}
export const LIMITS = {
  cropped: { label: 'Just cropped: at most outside', unit: '%', value: 12, min: 0, max: 50 },
  tangent: { label: 'Touches the edge: at most off', unit: 'px', value: 6, min: 0, max: 200 },
  offGuide: { label: 'Off a guide: at most', unit: '%', value: 3, min: 0, max: 20 },
  stretch: { label: 'Stretched: more than', unit: 'ratio', value: 1.35, min: 1, max: 4 },
  wideMm: { label: 'Too wide for a product, below', unit: 'mm', value: 35, min: 5, max: 200 },
  depthApart: { label: 'Apart in depth: more than of the model', unit: '%', value: 25, min: 1, max: 100 },
} as const satisfies Readonly<Record<string, Limit>>
export type LimitName = keyof typeof LIMITS
export type Limits = Readonly<Partial<Record<LimitName, number>>>
export const limitOf = (limits: Limits | undefined, name: LimitName): number => limits?.[name] ?? LIMITS[name].value
