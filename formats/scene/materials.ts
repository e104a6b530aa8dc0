// Materials of a file in the one form that everything after reads: standard ones with a colour map, an opacity and their transforms.
// Source: gltf2, khr-ext.

import {
  Mesh,
  MeshBasicMaterial,
  MeshPhysicalMaterial,
  MeshStandardMaterial,
  Texture,
  type Material,
  type Object3D,
} from 'three'

/** What fully transmitting glass still covers of what lies behind it (practice: two surfaces of 4 %). */
const GLASS_COVERS = 0.08

/** Changes the materials below `root` in place; each once. */
export function readMaterials(root: Object3D): void {
  const known = new Map<Material, Material>()
  root.traverse((o) => {
    if (!(o instanceof Mesh)) return
    const read = (m: Material): Material => {
      const made = known.get(m) ?? readMaterial(m)
      known.set(m, made)
      return made
    }
    o.material = Array.isArray(o.material) ? (o.material as Material[]).map(read) : read(o.material as Material)
  })
}

function readMaterial(source: Material): Material {
  const m = source instanceof MeshBasicMaterial ? litForm(source) : source
  for (const value of Object.values(m)) if (value instanceof Texture) value.updateMatrix()
  if (m instanceof MeshPhysicalMaterial && m.transmission > 0) {
    m.opacity = Math.min(m.opacity, 1 - (1 - GLASS_COVERS) * Math.min(1, m.transmission))
    m.transparent = true
  }
  return m
}

/** An unlit material has a colour and a texture and no light of its own: in a lit picture it is a matt surface. */
function litForm(m: MeshBasicMaterial): MeshStandardMaterial {
  const made = new MeshStandardMaterial({
    name: m.name,
    color: m.color,
    map: m.map,
    roughness: 1,
    metalness: 0,
    opacity: m.opacity,
    transparent: m.transparent,
    alphaTest: m.alphaTest,
    side: m.side,
    vertexColors: m.vertexColors,
  })
  made.userData = m.userData
  return made
}
