// The reference: the same GLB drawn by plain three.js in the same kind of worker, with one shadowed sun and a soft sky light.
import { expose } from 'comlink'
import {
  DirectionalLight,
  HemisphereLight,
  PCFShadowMap,
  PerspectiveCamera,
  Scene,
  WebGLRenderer,
  type Mesh,
} from 'three'
import { GLTFLoader } from 'three/addons/loaders/GLTFLoader.js'

const WIDTH = 684
const HEIGHT = 456
let renderer: WebGLRenderer | null = null
const scene = new Scene()
const camera = new PerspectiveCamera(53.13, WIDTH / HEIGHT, 0.05, 120)

function draw(): void {
  renderer!.render(scene, camera)
  const gl = renderer!.getContext()
  gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, new Uint8Array(4))
}

expose({
  async load(bytes: Uint8Array): Promise<void> {
    renderer = new WebGLRenderer({ canvas: new OffscreenCanvas(WIDTH, HEIGHT), antialias: false })
    renderer.setSize(WIDTH, HEIGHT, false)
    renderer.shadowMap.enabled = true
    renderer.shadowMap.type = PCFShadowMap
    const gltf = await new GLTFLoader().parseAsync(bytes.buffer as ArrayBuffer, '')
    gltf.scene.traverse((o) => {
      o.castShadow = (o as Mesh).isMesh
      o.receiveShadow = true
    })
    scene.add(gltf.scene)
    const sun = new DirectionalLight(0xffffff, 3)
    sun.position.set(15, 20, 10)
    sun.castShadow = true
    sun.shadow.mapSize.set(2048, 2048)
    Object.assign(sun.shadow.camera, { left: -15, right: 15, top: 15, bottom: -15, near: 1, far: 60 })
    scene.add(sun, new HemisphereLight(0xffffff, 0x888888, 1))
    camera.position.set(1.2, 1.58, -2.6)
    camera.lookAt(10, 1.58, -3.9)
    draw()
    renderer.shadowMap.autoUpdate = false
  },
  /** Milliseconds of one drawing after a small camera move. */
  frame(step: number): number {
    camera.position.x = 1.2 + step * 0.01
    const start = performance.now()
    draw()
    return performance.now() - start
  },
})
