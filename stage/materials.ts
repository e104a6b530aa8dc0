// Of a file's material: the surface, or glass over the lit picture, the sun's shadow, paper and ink.

import {
  Color,
  CustomBlending,
  DoubleSide,
  MinEquation,
  DstColorFactor,
  FrontSide,
  GLSL3,
  Matrix3,
  MeshStandardMaterial,
  NoBlending,
  OneFactor,
  OneMinusSrcAlphaFactor,
  ShaderMaterial,
  SrcAlphaFactor,
  Vector2,
  Vector4,
  ZeroFactor,
  type Mesh,
  type Texture,
  type Material,
} from 'three'
import { emissionOf, uvName } from '#mesh'
import type { Uniforms } from './light-uniforms.ts'
import { CLEAR_FRAGMENT } from './shaders-clear.ts'
import { SHADOW_FRAGMENT, SHADOW_VERTEX, SURFACE_FRAGMENT, SURFACE_VERTEX, TINT_FRAGMENT } from './shaders-surface.ts'
import { DRAWING_FRAGMENT, DRAWING_VERTEX, WINDING_FRAGMENT } from './shaders-drawing.ts'

/** The surface material of a glTF material: colour, roughness, metal, normal and emission with their textures. */
export function surfaceMaterial(
  source: Material,
  mesh: Mesh,
  anisotropy: number,
  fragmentShader = SURFACE_FRAGMENT,
): ShaderMaterial {
  const m = source instanceof MeshStandardMaterial ? source : null
  const maps = {
    COLOUR_MAP: m?.map,
    ROUGH_MAP: m?.roughnessMap,
    METAL_MAP: m?.metalnessMap,
    NORMAL_MAP: m?.normalMap,
    EMISSION_MAP: m?.emissiveMap,
  }
  const defines: Record<string, string> = {}
  // a map whose set of places the mesh does not have is not drawn
  for (const [name, map] of Object.entries(maps))
    if (map && map.channel < 2 && mesh.geometry.hasAttribute(uvName(map))) defines[name] = uvName(map)
  for (const map of Object.values(maps)) if (map) map.anisotropy = anisotropy
  if (mesh.geometry.hasAttribute('uv1')) defines['HAS_UV1'] = ''
  if (source.side === DoubleSide) defines['TWO_SIDED'] = ''
  if (source.alphaTest > 0) defines['ALPHA_TEST'] = ''
  if (defines['NORMAL_MAP'] || fragmentShader !== SURFACE_FRAGMENT) defines['SEES_PLACE'] = ''
  const place = (map: Texture | null | undefined): { value: Matrix3 } => ({ value: map?.matrix ?? new Matrix3() })
  const fallback = 'color' in source && source.color instanceof Color ? source.color : new Color(0.7, 0.7, 0.7)
  const material = new ShaderMaterial({
    glslVersion: GLSL3,
    vertexShader: SURFACE_VERTEX,
    fragmentShader,
    defines,
    side: source.side === DoubleSide ? DoubleSide : FrontSide,
    blending: NoBlending,
    uniforms: {
      uColour: { value: m?.color ?? fallback },
      uAlpha: { value: source.opacity },
      uAlphaTest: { value: source.alphaTest },
      uRoughMetal: { value: new Vector2(m?.roughness ?? 0.8, m?.metalness ?? 0) },
      uEmission: { value: emissionOf(m) ?? new Color(0, 0, 0) },
      uNormalScale: { value: m?.normalScale.x ?? 1 },
      uMap: { value: m?.map ?? null },
      uRoughMap: { value: m?.roughnessMap ?? null },
      uMetalMap: { value: m?.metalnessMap ?? null },
      uNormalMap: { value: m?.normalMap ?? null },
      uEmissionMap: { value: m?.emissiveMap ?? null },
      uMapPlace: place(m?.map),
      uRoughPlace: place(m?.roughnessMap),
      uMetalPlace: place(m?.metalnessMap),
      uNormalPlace: place(m?.normalMap),
      uEmissionPlace: place(m?.emissiveMap),
      inverseView: { value: null },
    },
  })
  material.vertexColors = mesh.geometry.hasAttribute('color')
  return material
}

/** Glass: drawn over the lit picture. */
export function clearMaterial(source: Material, mesh: Mesh, anisotropy: number, light: Uniforms): ShaderMaterial {
  const m = surfaceMaterial(source, mesh, anisotropy, CLEAR_FRAGMENT)
  Object.assign(m.uniforms, light)
  m.transparent = true
  // over the picture, and over what is flat: so much less of it covers
  m.blending = CustomBlending
  m.blendSrc = SrcAlphaFactor
  m.blendDst = OneMinusSrcAlphaFactor
  m.blendSrcAlpha = ZeroFactor
  m.blendDstAlpha = OneMinusSrcAlphaFactor
  m.depthTest = false
  m.depthWrite = false
  m.side = DoubleSide
  m.forceSinglePass = true
  return m
}

export const shadowMaterial = ({ defines, uniforms }: NonNullable<ReturnType<typeof cutOut>>): ShaderMaterial =>
  new ShaderMaterial({
    glslVersion: GLSL3,
    vertexShader: SHADOW_VERTEX,
    fragmentShader: SHADOW_FRAGMENT,
    defines,
    uniforms,
    colorWrite: false,
    side: DoubleSide,
  })
/** What a clear thing takes out of the sun's light that goes through it: its colour, as far as it is not clear; and where it begins. */
export const tintMaterial = ({ uniforms, side }: ShaderMaterial): ShaderMaterial =>
  new ShaderMaterial({
    glslVersion: GLSL3,
    vertexShader: SHADOW_VERTEX,
    fragmentShader: TINT_FRAGMENT,
    uniforms: { uColour: uniforms['uColour']!, uAlpha: uniforms['uAlpha']! },
    depthWrite: false,
    // as it is looked through: a pane with two faces counts once
    side,
    transparent: true,
    blending: CustomBlending,
    blendSrc: DstColorFactor,
    blendDst: ZeroFactor,
    blendEquationAlpha: MinEquation,
    blendSrcAlpha: OneFactor,
    blendDstAlpha: OneFactor,
    toneMapped: false,
  })
/** What a pass of its own needs to leave a cut-out's holes open; null where a surface has none. */
export function cutOut({
  uniforms,
  defines,
}: ShaderMaterial): { defines: Record<string, string>; uniforms: Uniforms } | null {
  const { uMap, uMapPlace, uAlpha, uAlphaTest } = uniforms as Uniforms
  const { COLOUR_MAP, HAS_UV1 } = defines as Record<string, string | undefined>
  if (COLOUR_MAP === undefined || !((uAlphaTest!.value as number) > 0)) return null
  return {
    defines: { COLOUR_MAP, ...(HAS_UV1 === undefined ? {} : { HAS_UV1 }) },
    uniforms: { uMap: uMap!, uMapPlace: uMapPlace!, uAlpha: uAlpha!, uAlphaTest: uAlphaTest! },
  }
}

/** Paper and ink, and the count of faces at the cut; both read the same uniforms. */
export function drawingMaterials(
  source: Material,
  mesh: Mesh,
  holes: ReturnType<typeof cutOut>,
): { drawing: ShaderMaterial; winding: ShaderMaterial } {
  const m = source instanceof MeshStandardMaterial ? source : null
  const uniforms: Uniforms = {
    uTint: { value: m?.color ?? new Color(0.7, 0.7, 0.7) },
    uCut: { value: new Vector4(0, 0, 0, 1) },
    uPaper: { value: new Color(1, 1, 1) },
    uDepthRange: { value: new Vector2(0, 1) },
    uSheet: { value: source.side === DoubleSide ? 1 : 0 },
    ...holes?.uniforms,
  }
  const shared = {
    glslVersion: GLSL3,
    vertexShader: DRAWING_VERTEX,
    side: DoubleSide,
    uniforms,
    defines: holes?.defines ?? {},
  } as const
  const drawing = new ShaderMaterial({ ...shared, fragmentShader: DRAWING_FRAGMENT, blending: NoBlending })
  const winding = new ShaderMaterial({
    ...shared,
    fragmentShader: WINDING_FRAGMENT,
    blending: CustomBlending,
    blendSrc: OneFactor,
    blendDst: OneFactor,
    depthTest: false,
    depthWrite: false,
  })
  drawing.vertexColors = winding.vertexColors = mesh.geometry.hasAttribute('color')
  return { drawing, winding }
}
