import { Group, PointLight, SpotLight } from 'three'
import { NodeIO } from '@gltf-transform/core'
import { ALL_EXTENSIONS, KHRLightsPunctual } from '@gltf-transform/extensions'
import { describe, expect, it } from 'vitest'
import { irradiance } from '#core/optics'
import { loadGlb } from '#formats/scene'
import { Pen } from '../scripts/demo-data/kit.ts'
import { glbOf } from '../tests/support/models.ts'
import { bakeLight, lightAt, underSky } from './light.ts'
import { spotShare } from './lamp.ts'
import { lampsOf } from './lamps.ts'
import { MeshScene, soupOf } from './index.ts'

const NIGHT = { sunBearingDeg: 0, sunElevationDeg: 40, skyLux: 0, sunLux: 0 }

describe('lamps of a file', () => {
  it('are read in candela, Z up, with the cones of spots (written by the glTF library)', async () => {
    const slab = glbOf([{ name: 'Floor', children: [new Pen('Slab').use('stone').box(-1, -1, -0.1, 1, 1, 0, { bevel: 0 }).node()] }]) // prettier-ignore
    const io = new NodeIO().registerExtensions(ALL_EXTENSIONS)
    const doc = await io.readBinary(slab)
    const lights = doc.createExtension(KHRLightsPunctual)
    const point = lights.createLight('Bulb').setType('point').setIntensity(120).setColor([1, 0.5, 0.25])
    const spot = lights
      .createLight('Spot')
      .setType('spot')
      .setIntensity(900)
      .setInnerConeAngle(0.2)
      .setOuterConeAngle(0.5)
    const sun = lights.createLight('Sun').setType('directional').setIntensity(3)
    const [scene] = doc.getRoot().listScenes()
    // Y up in the file
    scene!.addChild(doc.createNode('a').setTranslation([1, 2, 3]).setExtension('KHR_lights_punctual', point))
    scene!.addChild(doc.createNode('b').setTranslation([0, 4, 0]).setRotation([-Math.SQRT1_2, 0, 0, Math.SQRT1_2]).setExtension('KHR_lights_punctual', spot)) // prettier-ignore
    scene!.addChild(doc.createNode('c').setExtension('KHR_lights_punctual', sun))
    const root = await loadGlb(await io.writeBinary(doc), { textures: false })
    const { facts } = soupOf(root)
    const lamps = lampsOf(root)
    expect(lamps).toHaveLength(2)
    const [bulb, cone] = lamps
    expect(bulb!.place.map((v) => Math.round(v * 1e6) / 1e6)).toEqual([1, -3, 2])
    expect(bulb!.candela).toEqual([120, 60, 30])
    expect([bulb!.objectId, cone!.objectId]).toEqual(['a', 'b'].map((n) => facts.nodes.find((o) => o.name === n)?.id))
    expect(cone!.spot!.inner).toBeCloseTo(Math.cos(0.2), 6)
    expect(cone!.spot!.outer).toBeCloseTo(Math.cos(0.5), 6)
    // it looks down
    expect(cone!.spot!.direction[2]).toBeCloseTo(-1, 6)
  })
  it('a spot falls off between its cones as the format says', () => {
    const [inner, outer] = [Math.cos(0.2), Math.cos(0.5)]
    const lamp = {
      place: [0, 0, 0],
      objectId: '',
      candela: [1, 1, 1],
      spot: { direction: [0, 0, -1], inner, outer },
    } as const
    const at = (deg: number): number => spotShare(lamp, [Math.sin(deg), 0, -Math.cos(deg)])
    expect([at(0), at(0.19), at(0.51), at(2)]).toEqual([1, 1, 0, 0])
    // Source: khr-lights-punctual: the square of (cos - cos outer) / (cos inner - cos outer)
    expect(at(0.35)).toBeCloseTo(((Math.cos(0.35) - outer) / (inner - outer)) ** 2, 12)
  })
  it('what cannot shine or lies nowhere is left out', () => {
    const root = new Group()
    root.add(new PointLight(0xffffff, 0), new PointLight(0x000000, 5), new PointLight(0xffffff, Infinity))
    const nowhere = new SpotLight(0xffffff, 5)
    nowhere.position.set(NaN, 0, 0)
    root.add(nowhere)
    expect(lampsOf(root)).toEqual([])
  })
})

describe('their light in the volume', () => {
  const scene = async (lamp: PointLight | null): Promise<MeshScene> => {
    const pen = [new Pen('Slab').use('plaster').box(-3, -3, -0.2, 3, 3, 0, { bevel: 0 }).node(), new Pen('Post').use('plaster').box(2.6, 2.6, 0, 2.9, 2.9, 4, { bevel: 0 }).node()] // prettier-ignore
    const root = await loadGlb(glbOf([{ name: 'Room', children: pen }]), { textures: false })
    if (lamp) root.add(lamp.translateY(1.5))
    root.updateMatrixWorld(true)
    const { soup, facts } = soupOf(root)
    return new MeshScene(soup, facts)
  }
  it('is what comes back from surfaces, not what they send there themselves', async () => {
    const dark = await bakeLight(await scene(null), { sky: NIGHT })
    const lit = await bakeLight(await scene(new PointLight(0xffffff, 1000)), { sky: NIGHT })
    // over the slab, looking down: light that the slab throws back; looking up at the lamp: none of its own
    const down = (v: typeof lit) => irradiance(lightAt(v, [0, 0, 0.8], 0), [0, 0, -1])
    const up = (v: typeof lit) => irradiance(lightAt(v, [0, 0, 0.8], 0), [0, 0, 1])
    expect(down(dark)).toBe(0)
    expect(down(lit)).toBeGreaterThan(20)
    expect(up(lit)).toBeLessThan(down(lit))
  })
  it('stays as it is where the sky’s is taken more or less of; both add up to what another sky would give', async () => {
    const DUSK = { ...NIGHT, skyLux: 40, sunLux: 100 }
    const day = { ...DUSK, skyLux: 14_000, sunLux: 35_000 }
    const lit = await scene(new PointLight(0xffffff, 1000))
    const [night, dusk, bright] = [await bakeLight(lit, { sky: NIGHT }), await bakeLight(lit, { sky: DUSK }), await bakeLight(lit, { sky: day })] // prettier-ignore
    const most = (a: ArrayLike<number>, b: ArrayLike<number>): number => Array.from(a).reduce((m, v, i) => Math.max(m, Math.abs(v - b[i]!)), 0) // prettier-ignore
    for (const k of [0, 1, 2]) {
      expect(most(dusk.lamps![k]!, night.channels[k]!)).toBeLessThan(1e-3)
      // 350 times the light; nearly, as what comes from one side alone is never less than a tenth of its mean
      expect(most(underSky(dusk, 350)[k]!, bright.channels[k]!)).toBeLessThan(0.02 * Math.max(...bright.channels[k]!))
      expect(most(underSky(dusk, 0)[k]!, night.channels[k]!)).toBeLessThan(1e-3)
      expect(underSky(dusk, 1)[k]).toEqual(dusk.channels[k])
    }
    expect(Math.max(...night.channels[0])).toBeGreaterThan(20)
    expect((await bakeLight(await scene(null), { sky: DUSK })).lamps).toBeUndefined()
  })
})
