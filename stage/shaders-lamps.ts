// GLSL of the file's own lamps.

/** As many lamps light a place, and as many of them cast shadows; side of a window of theirs. */
export const MOST_LAMPS = 12
export const SHADOWED_LAMPS = 4
export const LAMP_TILE_PX = 320

/** Light of the lamps at a place; after LIGHT_PARS. */
export const LAMP_PARS = /* glsl */ `
uniform int uLampCount, uLampShadowed;
uniform vec3 uLampPlace[${MOST_LAMPS}];
uniform vec3 uLampLight[${MOST_LAMPS}];
// direction, cosine of the outer cone (under -1: to all sides); width of its edge in cosines
uniform vec4 uLampWay[${MOST_LAMPS}];
uniform float uLampCone[${MOST_LAMPS}];
uniform highp sampler2D uLampShadow;
// near and far of its windows
uniform vec2 uLampDepth;
float lampSeen(int i, vec3 p, vec3 n, float noise) {
  vec3 d = p - uLampPlace[i];
  float far = max(abs(d.x), max(abs(d.y), abs(d.z)));
  d += n * (far * ${(3.2 / LAMP_TILE_PX).toFixed(6)} + 0.002);
  vec3 a = abs(d);
  vec2 st;
  float m, face;
  if (a.x >= a.y && a.x >= a.z) { m = a.x; st = vec2(d.x > 0.0 ? -d.y : d.y, d.z); face = d.x > 0.0 ? 0.0 : 1.0; }
  else if (a.y >= a.z) { m = a.y; st = vec2(d.y > 0.0 ? d.x : -d.x, d.z); face = d.y > 0.0 ? 2.0 : 3.0; }
  else { m = a.z; st = vec2(d.x, d.z > 0.0 ? -d.y : d.y); face = d.z > 0.0 ? 4.0 : 5.0; }
  vec2 uv = st / m * 0.5 + 0.5;
  float lit = 0.0;
  vec2 o = vec2(cos(6.2831853 * noise), sin(6.2831853 * noise)) / ${LAMP_TILE_PX.toFixed(1)};
  for (int k = 0; k < 4; k++) {
    vec2 at = clamp(uv + o * (float(k) * 0.35 + 0.4), 0.5 / ${LAMP_TILE_PX.toFixed(1)}, 1.0 - 0.5 / ${LAMP_TILE_PX.toFixed(1)});
    float depth = texture(uLampShadow, (vec2(face, float(i)) + at) / vec2(6.0, ${SHADOWED_LAMPS.toFixed(1)})).r;
    float there = 2.0 * uLampDepth.x * uLampDepth.y / (uLampDepth.y + uLampDepth.x - (depth * 2.0 - 1.0) * (uLampDepth.y - uLampDepth.x));
    lit += step(m * 0.985 - 0.004, there);
    o = vec2(-o.y, o.x);
  }
  return lit * 0.25;
}
vec3 lampLight(vec3 p, vec3 n, vec3 v, vec3 body, vec3 f0, float rough, float noise) {
  vec3 sum = vec3(0.0);
  for (int i = 0; i < uLampCount; i++) {
    vec3 to = uLampPlace[i] - p;
    float d2 = dot(to, to);
    vec3 l = to * inversesqrt(max(d2, 1e-8));
    float nl = dot(n, l);
    if (nl <= 0.0) continue;
    float share = 1.0;
    if (uLampWay[i].w > -1.5) {
      share = clamp((dot(uLampWay[i].xyz, -l) - uLampWay[i].w) / uLampCone[i], 0.0, 1.0);
      share *= share;
      if (share <= 0.0) continue;
    }
    if (i < uLampShadowed) share *= lampSeen(i, p, n, noise);
    if (share <= 0.0) continue;
    sum += uLampLight[i] * (share * nl / max(d2, 1e-4)) * (body + glossOf(n, v, l, f0, rough));
  }
  return sum;
}
`
