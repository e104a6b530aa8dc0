// GLSL of cut-outs (leaves, perforated metal) in passes that have no other use for maps: what the map leaves out is not there. The
// define COLOUR_MAP names the set of places: uv or uv1.

export const CUT_OUT_VERTEX_PARS = /* glsl */ `
#ifdef COLOUR_MAP
#ifdef HAS_UV1
in vec2 uv1;
#endif
out vec2 vPlace;
uniform mat3 uMapPlace;
#endif
`
export const CUT_OUT_VERTEX = /* glsl */ `
  #ifdef COLOUR_MAP
    vPlace = (uMapPlace * vec3(COLOUR_MAP, 1.0)).xy;
  #endif
`
export const CUT_OUT_PARS = /* glsl */ `
#ifdef COLOUR_MAP
in vec2 vPlace;
uniform sampler2D uMap;
uniform float uAlpha, uAlphaTest;
#endif
`
export const CUT_OUT = /* glsl */ `
  #ifdef COLOUR_MAP
    if (uAlpha * texture(uMap, vPlace).a < uAlphaTest) discard;
  #endif
`
