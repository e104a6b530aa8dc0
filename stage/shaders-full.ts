// GLSL of passes over a whole picture that work nothing out: sums and copies.

export const FULL_VERTEX = /* glsl */ `
out vec2 vUv;
void main() { vUv = position.xy * 0.5 + 0.5; gl_Position = vec4(position.xy, 0.0, 1.0); }
`

/** The flat layer: what is as it is on the screen in any light (cut faces, plain grounds), linear, with how much of the pixel it covers. */
export const ADD_FRAGMENT = /* glsl */ `
in vec2 vUv;
layout(location = 0) out vec4 colour;
layout(location = 1) out vec4 flatLayer;
uniform sampler2D uSource, uFlatSource;
void main() {
  // as far as half floats reach: nothing below is cut off
  colour = vec4(clamp(texture(uSource, vUv).rgb, 0.0, 65504.0), 1.0);
  flatLayer = texture(uFlatSource, vUv);
}
`
export const COPY_FRAGMENT = /* glsl */ `
in vec2 vUv;
out vec4 colour;
uniform sampler2D uSource;
void main() { colour = vec4(clamp(texture(uSource, vUv).rgb, 0.0, 65504.0), 1.0); }
`
