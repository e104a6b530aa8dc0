// GLSL of clear things: what they let through and mirror, and where the sun's images in them lie.
import { CUTS } from './shaders-cuts.ts'
import { LIGHT_PARS } from './shaders-lighting.ts'
import { SURFACE_PARS } from './shaders-surface.ts'

/** Clear things over the lit picture: what they let through stays, what they mirror is added. */
export const CLEAR_FRAGMENT = /* glsl */ `
layout(location = 0) out vec4 colour;
layout(location = 1) out vec4 flatLayer;
// of the sun's image: inverse distances along the axis of the image and of the surface that shows it, nought where none is
layout(location = 2) out vec4 glint;
uniform mat4 inverseView;
uniform highp sampler2D uDepth;
uniform vec2 uInverseSize;
// 1: into a layer of its own, which keeps how far away it is
uniform float uApart;
${SURFACE_PARS}
${LIGHT_PARS}
// so much of the sun's light a glint sends here at least, of what white paper would
const float GLINT = 0.5;
// Inverse distance of the image that a mirror shows of something far away: 1 / (d + r / 2), of a flat one nought. Of a surface bent
// otherwise one way than the other it lies between its two images. Model: paraxial, the mean of both ways along the picture.
float imageOf(vec3 n, float far) {
  float inverse = 0.0;
  vec3 place[2] = vec3[2](dFdx(vView), dFdy(vView));
  vec3 turn[2] = vec3[2](dFdx(n), dFdy(n));
  for (int i = 0; i < 2; i++) {
    float twice = 2.0 * dot(turn[i], place[i]) / max(dot(place[i], place[i]), 1e-20);
    float bent = 1.0 + twice * far;
    inverse += 0.5 * max(0.0, abs(bent) < 1e-3 ? 0.0 : twice / bent);
  }
  return inverse;
}
void main() {
  ${CUTS}
  vec3 facing = surfaceNormal();
  if (dot(facing, vView) > 0.0) facing = -facing;
  float image = imageOf(facing, length(vView));
  vec2 at = gl_FragCoord.xy * uInverseSize;
  if (gl_FragCoord.z > texture(uDepth, at).r) discard;
  vec4 c = surfaceColour();
  vec3 n = mat3(inverseView) * facing;
  vec3 p = (inverseView * vec4(vView, 1.0)).xyz;
  vec3 v = normalize(inverseView[3].xyz - p);
  float nv = max(dot(n, v), 1e-3);
  // both faces of a pane: what the second sends back comes through the first again
  vec3 f = fresnel(vec3(0.04), nv);
  f = 2.0 * f / (1.0 + f);
  // the way through is longer towards the edge, where glass shows its own colour
  float taken = 1.0 - pow(0.97, 1.0 / max(nv, 0.06));
  Around here = around(p);
  vec3 gloss = mirrored(here, reflect(-v, n), uRoughMetal.x) * f;
  float nl = dot(n, uSun);
  float sent = 0.0;
  if (nl > 0.0 && uSunColour.r > 0.0) {
    vec3 sun = nl * min(sunGloss(n, v, vec3(0.04), max(uRoughMetal.x, 0.08)), 30.0) * sunSeen(p, n, 0.5);
    gloss += uSunColour * sun;
    sent = sun.g * 3.1415927;
  }
  glint = vec4(vec2(image * length(vView), 1.0) / -vView.z, 0.0, step(GLINT, sent));
  vec3 body = c.rgb * 0.31830989 * irradianceAround(here, n);
  float cover = clamp(1.0 - (1.0 - c.a) * (1.0 - f.r) * (1.0 - taken), 0.0, 1.0);
  colour = vec4((body * c.a + gloss) / max(cover, 1e-3), cover);
  // what is flat behind is covered as the rest is
  flatLayer = vec4(uApart / -vView.z, uApart, 0.0, cover);
}
`
