import { describe, expect, it } from 'vitest'
import {
  depthOfField,
  basis,
  exposureFactor,
  exposureValue100,
  irradiance,
  meteredEv100,
  relativeSkyLuminance,
  skyRadiance,
  sunDirection,
  zenithLuminance,
  type Harmonics,
} from './index.ts'

describe('exposure', () => {
  it('f/16, 1/125 s, ISO 100 is EV 14.97; two stops of ISO are two EV', () => {
    // handbook 7: log2(16^2 x 125)
    expect(exposureValue100({ fNumber: 16, shutterS: 1 / 125, iso: 100 })).toBeCloseTo(14.97, 2)
    expect(exposureValue100({ fNumber: 16, shutterS: 1 / 125, iso: 400 })).toBeCloseTo(12.97, 2)
  })
  it('the meter and the factor meet: EV 15 is 4096 cd/m2, and a metered grey lands at 0.104', () => {
    // K = 12.5, q = 0.65 (ISO 2720's range, ISO 12232)
    expect(meteredEv100(4096)).toBeCloseTo(15, 12)
    expect(4096 * exposureFactor(15)).toBeCloseTo(0.104, 3)
    expect(exposureFactor(9, 1) / exposureFactor(9)).toBe(2)
  })
})

describe('sky', () => {
  const sky = { sunBearingDeg: 140, sunElevationDeg: 35, sunLux: 42_000, skyLux: 14_000 }
  const sun = sunDirection(sky)
  it('is 1 at the zenith by definition, brightest about the sun, pale at the horizon', () => {
    expect(relativeSkyLuminance([0, 0, 1], sun)).toBeCloseTo(1, 12)
    expect(relativeSkyLuminance(sun, sun)).toBeGreaterThan(4)
    const away = [-sun[0] * 0.9, -sun[1] * 0.9, 0.3] as const
    expect(relativeSkyLuminance(away, sun)).toBeLessThan(relativeSkyLuminance(sun, sun) / 3)
  })
  it('gives level ground the illuminance asked for (summed on another grid than the scaling)', () => {
    const zenith = zenithLuminance(sky)
    let sum = 0
    const n = 90
    for (let i = 0; i < n; i++)
      for (let j = 0; j < 4 * n; j++) {
        const e = (((i + 0.5) / n) * Math.PI) / 2
        const a = ((j + 0.5) / (4 * n)) * 2 * Math.PI
        const d = [Math.sin(a) * Math.cos(e), Math.cos(a) * Math.cos(e), Math.sin(e)] as const
        sum +=
          zenith * relativeSkyLuminance(d, sun) * d[2] * Math.cos(e) * (Math.PI / 2 / n) * ((2 * Math.PI) / (4 * n))
      }
    expect(sum / 14_000).toBeCloseTo(1, 2)
    expect(skyRadiance([0, 0, -1], sky, zenith)[0]).toBeGreaterThan(0)
  })
})

describe('light from all sides', () => {
  it('a uniform radiance of 1 gives pi; light from above gives more above (Ramamoorthi and Hanrahan 2001)', () => {
    const uniform: Harmonics = [4 * Math.PI * 0.282094792, 0, 0, 0]
    expect(irradiance(uniform, [0, 0, 1])).toBeCloseTo(Math.PI, 6)
    const above: Harmonics = [1, 0, 0, 0.6]
    expect(irradiance(above, [0, 0, 1])).toBeGreaterThan(irradiance(above, [0, 0, -1]))
    expect(irradiance([1, 0, 0, 5], [0, 0, -1])).toBeGreaterThan(0)
    expect(basis([0, 0, 1])).toEqual([0.282094792, 0, 0, 0.488602512])
  })
})

describe('depth of field', () => {
  const of = (focalMm: number, fNumber: number, focusM = 5) => {
    const r = depthOfField({ focalMm, fNumber, focusM, cocMm: 0.03 })
    if (!r.ok) throw new Error(r.message)
    return r.value
  }
  // handbook-6: computed from the formula; hyperfocal distances stand in published tables (c = 0.03 mm)
  it.each([
    [20, 8, 1.687],
    [24, 8, 2.424],
    [24, 11, 1.769],
    [35, 8, 5.139],
    [50, 8, 10.467],
    [50, 16, 5.258],
  ])('hyperfocal distance of %i mm at f/%i is %f m', (f, n, h) => expect(of(f, n).hyperfocalM).toBeCloseTo(h, 3))
  it.each([
    [50, 8, 5, 3.389, 9.527],
    [85, 2.8, 2, 1.956, 2.046],
    [60, 4.5, 1.3, 1.242, 1.363],
    [60, 13, 1.3, 1.146, 1.502],
    [100, 16, 1, 0.959, 1.045],
  ])('%i mm at f/%f focused on %f m is sharp from %f to %f m', (f, n, s, near, far) => {
    const d = of(f, n, s)
    expect(d.nearM).toBeCloseTo(near, 3)
    expect(d.farM).toBeCloseTo(far, 3)
  })
  it('from the hyperfocal distance on reaches to infinity; nearer than the focal length there is none', () => {
    const h = of(24, 8).hyperfocalM
    expect(of(24, 8, h).farM).toBe(Infinity)
    expect(of(24, 8, h * 0.999).farM).toBeLessThan(Infinity)
    expect(depthOfField({ focalMm: 50, fNumber: 2, focusM: 0.05, cocMm: 0.03 })).toMatchObject({ reason: 'too-near' })
    expect(() => depthOfField({ focalMm: 50, fNumber: 0, focusM: 1, cocMm: 0.03 })).toThrow(RangeError)
  })
})
