// A file's own animation: what its clips put where, against the graphics library's own player, in files that the glTF library wrote.
import { Document, WebIO } from '@gltf-transform/core'
import { AnimationMixer, Group, LoopOnce, Vector3, type AnimationClip, type Object3D } from 'three'
import { GLTFLoader } from 'three/addons/loaders/GLTFLoader.js'
import { describe, expect, it } from 'vitest'
import { affinePoint, type Vec3 } from '#core/math'
import { movedPoint, posed, type ModelClip } from '#core/reel'
import { assemble, quickFacts, shiftedFacts } from '#mesh'
import { loadGlb } from './index.ts'

const HALF = Math.SQRT1_2
/** A box with a lid that turns while its box slides and grows; by each kind of keys. */
async function lidded(change: (doc: Document) => void = () => undefined): Promise<Uint8Array> {
  const doc = new Document()
  const buffer = doc.createBuffer()
  const accessor = (type: 'SCALAR' | 'VEC3' | 'VEC4', values: readonly number[]) => doc.createAccessor().setType(type).setArray(Float32Array.from(values)).setBuffer(buffer) // prettier-ignore
  const triangle = doc.createPrimitive().setAttribute('POSITION', accessor('VEC3', [0, 0, 0, 1, 0, 0, 0, 1, 0]))
  const mesh = doc.createMesh('Face').addPrimitive(triangle)
  const lid = doc.createNode('Lid').setMesh(mesh).setTranslation([0, 1, 0]).setScale([2, 1, 1])
  const box = doc
    .createNode('Box')
    .setMesh(mesh)
    .addChild(lid)
    .setTranslation([3, 0, 0])
    .setRotation([0, HALF, 0, HALF])
  doc.createScene().addChild(box)
  const cubic = [0, 0, 0, 3, 0, 0, 0.5, 0, 1, 0, -1, 0, 4, 0, 0, 0, 0, 0, 0.2, 0, 0, 4, 1, 2, 0, 0, 0]
  const slide = doc.createAnimationSampler().setInput(accessor('SCALAR', [0, 0.5, 2])).setOutput(accessor('VEC3', cubic)).setInterpolation('CUBICSPLINE') // prettier-ignore
  const turn = doc.createAnimationSampler().setInput(accessor('SCALAR', [0.25, 1, 1.5])).setOutput(accessor('VEC4', [0, 0, 0, 1, HALF, 0, 0, HALF, 0, -HALF, 0, -HALF])).setInterpolation('LINEAR') // prettier-ignore
  const grow = doc.createAnimationSampler().setInput(accessor('SCALAR', [0, 1])).setOutput(accessor('VEC3', [1, 1, 1, 1, 2, 0.5])).setInterpolation('STEP') // prettier-ignore
  const open = doc.createAnimation('Open').addSampler(slide).addSampler(turn).addSampler(grow)
  open.addChannel(doc.createAnimationChannel().setTargetNode(box).setTargetPath('translation').setSampler(slide))
  open.addChannel(doc.createAnimationChannel().setTargetNode(lid).setTargetPath('rotation').setSampler(turn))
  open.addChannel(doc.createAnimationChannel().setTargetNode(box).setTargetPath('scale').setSampler(grow))
  change(doc)
  return new WebIO().writeBinary(doc)
}
async function clipsIn(glb: Uint8Array, place: Partial<{ position: Vec3; turnDeg: number; scale: number }> = {}) {
  const root = await loadGlb(glb, { textures: false })
  const placed = { key: 'm', unitM: 0.5, up: 'y' as const, moved: [], place: { position: [0, 0, 0] as Vec3, turnDeg: 0, scale: 1, ...place } } // prettier-ignore
  const scene = assemble([{ placed, root }])
  return { scene, facts: quickFacts(scene) }
}

describe('the model’s own animation', () => {
  it('puts every corner where the graphics library’s player has it, at every moment, wherever the model is placed', async () => {
    const glb = await lidded()
    const { scene, facts } = await clipsIn(glb, { position: [7, -2, 1], turnDeg: 30, scale: 3 })
    const clip = facts.clips![0]!
    expect([facts.clips!.length, clip.name, clip.modelKey, clip.durationS]).toEqual([1, 'Open', 'm', 2])
    const theirs = await new GLTFLoader().parseAsync(glb.slice().buffer, '')
    const holder = new Group()
    holder.applyMatrix4(scene.children[0]!.matrixWorld)
    holder.add(theirs.scene)
    const mixer = new AnimationMixer(theirs.scene)
    const action = mixer.clipAction(theirs.animations[0] as AnimationClip)
    action.setLoop(LoopOnce, 1).clampWhenFinished = true
    action.play()
    const named = (of: Object3D, name: string): Object3D => of.getObjectByName(name)!
    for (let t = 0; t <= 2.3; t += 0.0703) {
      action.reset()
      mixer.setTime(t)
      holder.updateMatrixWorld(true)
      const moved = posed(clip, t)
      for (const [name, id] of [
        ['Box', 'm/Box'],
        ['Lid', 'm/Box/Lid'],
      ] as const) {
        const corner = new Vector3(0.3, 0.8, 0)
        const rest = corner.clone().applyMatrix4(named(scene, name).matrixWorld).toArray() as Vec3
        const wanted = corner.clone().applyMatrix4(named(theirs.scene, name).matrixWorld)
        movedPoint(rest, id, moved).forEach((v, i) =>
          expect(v, `${name} at ${t}`).toBeCloseTo(wanted.getComponent(i), 5),
        )
      }
    }
  })
  it('is told about another origin with the model', async () => {
    const { facts } = await clipsIn(await lidded())
    const by: Vec3 = [100, 20, -3]
    const there = shiftedFacts(facts, by).clips![0]!
    const at = (clip: ModelClip, p: Vec3): Vec3 => affinePoint(posed(clip, 1.2)[0]!.affine, p)
    at(there, [101, 22, 0]).forEach((v, i) => expect(v).toBeCloseTo(at(facts.clips![0]!, [1, 2, 3])[i]! + by[i]!, 9))
  })
  it('leaves out what cannot be played: keys out of order, numbers that are none, nothing that moves a node', async () => {
    const of = async (change: (doc: Document) => void) => (await clipsIn(await lidded(change))).facts.clips
    const sampler = (doc: Document, k: number) => doc.getRoot().listAnimations()[0]!.listSamplers()[k]!
    const bad = await of((doc) => {
      sampler(doc, 0)
        .getInput()!
        .setArray(Float32Array.from([0, 2, 1]))
      sampler(doc, 1).getOutput()!.setElement(1, [NaN, 0, 0, 1])
    })
    expect(bad![0]!.nodes.map((n) => [n.objectId, n.tracks.map((t) => t.path)])).toEqual([['m/Box', ['scale']]])
    expect(await of((doc) => doc.getRoot().listAnimations()[0]!.listChannels().forEach((c) => c.dispose()))).toBeUndefined() // prettier-ignore
  })
  it('of one name are told apart, and whole numbers stand for shares of one', async () => {
    const glb = await lidded((doc) => {
      const [open] = doc.getRoot().listAnimations()
      const turn = open!.listSamplers()[1]!
      const short = doc.createAccessor().setType('VEC4').setNormalized(true).setArray(Int16Array.from([0, 0, 0, 32767, 23170, 0, 0, 23170, 0, -23170, 0, -23170])).setBuffer(doc.getRoot().listBuffers()[0]!) // prettier-ignore
      turn.setOutput(short)
      const again = doc.createAnimation('Open')
      again.addSampler(turn).addChannel(doc.createAnimationChannel().setTargetNode(doc.getRoot().listNodes().find((n) => n.getName() === 'Lid')!).setTargetPath('rotation').setSampler(turn)) // prettier-ignore
    })
    const { facts } = await clipsIn(glb)
    expect(facts.clips!.map((c) => c.name)).toEqual(['Open', 'Open#2'])
    const [lid] = posed(facts.clips![1]!, 1)
    expect(lid!.objectId).toBe('m/Box/Lid')
    expect(facts.clips![1]!.nodes[0]!.tracks[0]!.values[4]).toBeCloseTo(HALF, 4)
  })
})
