import { useMemo } from 'react'
import { Color, DoubleSide, type Plane, ShaderMaterial, Vector3 } from 'three'
import type { Reading } from '../session/session'

const VERTEX = /* glsl */ `
#include <clipping_planes_pars_vertex>
varying vec3 vSpace;
varying vec3 vNormalSpace;
void main() {
  #include <begin_vertex>
  #include <project_vertex>
  #include <clipping_planes_vertex>
  vSpace = (modelMatrix * vec4(position, 1.0)).xyz;
  vNormalSpace = normalize(mat3(modelMatrix) * normal);
}`

/** Ivory and ink by what the surface mirrors: lights in even strips that lie along one direction. */
const STRIPES = /* glsl */ `
#include <clipping_planes_pars_fragment>
uniform vec3 along;
uniform float count;
varying vec3 vSpace;
varying vec3 vNormalSpace;
void main() {
  #include <clipping_planes_fragment>
  vec3 n = normalize(vNormalSpace);
  vec3 seen = normalize(cameraPosition - vSpace);
  if (dot(n, seen) < 0.0) n = -n;
  vec3 mirrored = reflect(-seen, n);
  float turn = acos(clamp(dot(mirrored, along), -1.0, 1.0)) / 3.14159265;
  float f = turn * count;
  float edge = fwidth(f);
  float strip = abs(fract(f) - 0.5) * 2.0;
  float ink = smoothstep(0.5 - edge, 0.5 + edge, strip);
  gl_FragColor = vec4(mix(vec3(0.17, 0.14, 0.11), vec3(0.985, 0.965, 0.91), ink), 1.0);
}`

/** Ivory where a side leans enough against the pull, oxide where it leans less, a line where it is just so. */
const LEAN = /* glsl */ `
#include <clipping_planes_pars_fragment>
uniform vec3 along;
uniform float asked;
uniform vec3 enough;
uniform vec3 less;
varying vec3 vSpace;
varying vec3 vNormalSpace;
void main() {
  #include <clipping_planes_fragment>
  vec3 n = normalize(vNormalSpace);
  float lean = degrees(asin(clamp(abs(dot(n, along)), 0.0, 1.0)));
  float edge = max(fwidth(lean), 1e-4);
  float light = 0.72 + 0.28 * abs(dot(n, normalize(cameraPosition - vSpace)));
  // Hatched where it leans too little, to be read without colour.
  vec3 hatched = less * (0.8 + 0.2 * step(0.5, fract((gl_FragCoord.x + gl_FragCoord.y) / 8.0)));
  vec3 color = mix(hatched, enough, smoothstep(asked - edge, asked + edge, lean));
  float line = 1.0 - smoothstep(0.0, 1.5 * edge, abs(lean - asked));
  gl_FragColor = vec4(mix(color * light, vec3(0.17, 0.14, 0.11), 0.8 * line), 1.0);
}`

const DIRECTIONS = {
  x: new Vector3(1, 0, 0),
  y: new Vector3(0, 1, 0),
  z: new Vector3(0, 0, 1),
} as const

/** What a body is looked at with: mirrored stripes, or how its sides lean against a pull. */
export function LookMaterial({
  reading,
  clip,
}: {
  reading: Reading
  clip: { clippingPlanes: Plane[] | null }
}) {
  const { kind, along, size } = reading
  const made = useMemo(
    () =>
      new ShaderMaterial({
        vertexShader: VERTEX,
        fragmentShader: kind === 'stripes' ? STRIPES : LEAN,
        uniforms: {
          along: { value: DIRECTIONS[along] },
          count: { value: size },
          asked: { value: size },
          enough: { value: new Color(0.93, 0.9, 0.82) },
          less: { value: new Color(0.62, 0.24, 0.16) },
        },
        clipping: true,
        side: DoubleSide,
        polygonOffset: true,
        polygonOffsetFactor: 1,
        polygonOffsetUnits: 1,
      }),
    [kind, along, size],
  )
  return <primitive object={made} attach="material" {...clip} />
}
