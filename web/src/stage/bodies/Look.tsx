import { useMemo } from 'react'
import { Color, DoubleSide, LinearSRGBColorSpace, type Plane, ShaderMaterial, Vector3 } from 'three'
import type { Bend, Reading } from '../../session/session'

const VERTEX = /* glsl */ `
#include <clipping_planes_pars_vertex>
attribute vec2 bends;
varying vec2 vBends;
varying vec3 vSpace;
varying vec3 vNormalSpace;
void main() {
  #include <begin_vertex>
  #include <project_vertex>
  #include <clipping_planes_vertex>
  vBends = bends;
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

/**
 * Ivory where a side leans enough against the best pull for it, oxide where it leans less, a line where it is just so. Where the
 * halves of a mould part only that of its half, and the second pull, are there for a place.
 */
const LEAN = /* glsl */ `
#include <clipping_planes_pars_fragment>
uniform vec3 along;
uniform vec3 second;
uniform bool halves;
uniform float parts;
uniform float asked;
uniform vec3 enough;
uniform vec3 less;
varying vec3 vSpace;
varying vec3 vNormalSpace;
void main() {
  #include <clipping_planes_fragment>
  vec3 n = normalize(vNormalSpace);
  float own = dot(n, along);
  float height = dot(vSpace, along) - parts;
  own = halves ? own * sign(height) : abs(own);
  float lean = degrees(asin(clamp(max(own, abs(dot(n, second))), -1.0, 1.0)));
  float edge = max(fwidth(lean), 1e-4);
  float light = 0.72 + 0.28 * abs(dot(n, normalize(cameraPosition - vSpace)));
  // Hatched where it leans too little, to be read without colour.
  vec3 hatched = less * (0.8 + 0.2 * step(0.5, fract((gl_FragCoord.x + gl_FragCoord.y) / 8.0)));
  vec3 color = mix(hatched, enough, smoothstep(asked - edge, asked + edge, lean));
  float line = 1.0 - smoothstep(0.0, 1.5 * edge, abs(lean - asked));
  if (halves) line = max(line, 1.0 - smoothstep(0.0, 1.5 * fwidth(height), abs(height)));
  gl_FragColor = vec4(mix(color * light, vec3(0.17, 0.14, 0.11), 0.8 * line), 1.0);
}`

/**
 * Ochre where it bulges, verdigris where it is hollow, ivory where it does neither, in bands of a tenth of the curvature asked
 * for; a line at each. What is tighter than the radius asked for is hatched.
 */
const BENDS = /* glsl */ `
#include <clipping_planes_pars_fragment>
uniform float asked;
uniform int what;
uniform vec3 enough;
uniform vec3 out_;
uniform vec3 in_;
varying vec3 vSpace;
varying vec3 vNormalSpace;
varying vec2 vBends;
void main() {
  #include <clipping_planes_fragment>
  float product = vBends.x * vBends.y;
  float k = what == 0 ? min(vBends.y, 0.0)
    : what == 1 ? max(vBends.x, 0.0)
    : what == 2 ? 0.5 * (vBends.x + vBends.y)
    : sign(product) * sqrt(abs(product));
  float t = k * asked;
  float size = abs(t);
  vec3 color = mix(enough, t < 0.0 ? in_ : out_, 0.12 * step(0.02, size) + 0.8 * min(size, 1.0));
  float f = size * 10.0;
  float line = (1.0 - smoothstep(0.0, 1.2 * max(fwidth(f), 1e-5), abs(fract(f + 0.5) - 0.5)))
    * step(0.5, f) * step(f, 10.5) * step(fwidth(f), 0.5);
  float hatch = step(1.001, size) * step(0.5, fract((gl_FragCoord.x + gl_FragCoord.y) / 8.0));
  vec3 n = normalize(vNormalSpace);
  float light = 0.72 + 0.28 * abs(dot(n, normalize(cameraPosition - vSpace)));
  gl_FragColor = vec4(mix(color * light, vec3(0.17, 0.14, 0.11), max(0.3 * line, 0.45 * hatch)), 1.0);
}`

const FRAGMENT = { stripes: STRIPES, lean: LEAN, bends: BENDS } as const
export const BEND_WORDS: Readonly<Record<Bend, string>> = {
  hollow: 'hollows',
  bulge: 'bulges',
  mean: 'mean of both',
  product: 'product of both',
}

/** The colours of the looks, also for their legends. */
export const INKS = { enough: '#ede6d1', less: '#9e3d29', out: '#b5761b', in: '#2f7c70' } as const

/** The shaders write what is seen: the numbers of a colour as they stand. */
const asSeen = (hex: string): Color => new Color().setStyle(hex, LinearSRGBColorSpace)

const DIRECTIONS = {
  x: new Vector3(1, 0, 0),
  y: new Vector3(0, 1, 0),
  z: new Vector3(0, 0, 1),
} as const

const NOWHERE = new Vector3()

/** What a body is looked at with: mirrored stripes, how its sides lean against a pull, or how tightly it bends. */
export function LookMaterial({
  reading,
  clip,
}: {
  reading: Reading
  clip: { clippingPlanes: Plane[] | null }
}) {
  const { kind, size } = reading
  const along = 'along' in reading ? reading.along : 'z'
  const second = reading.kind === 'lean' ? reading.second : null
  const parts = reading.kind === 'lean' ? reading.parts : null
  const what = 'of' in reading ? Object.keys(BEND_WORDS).indexOf(reading.of) : 0
  const made = useMemo(
    () =>
      new ShaderMaterial({
        vertexShader: VERTEX,
        fragmentShader: FRAGMENT[kind],
        uniforms: {
          along: { value: DIRECTIONS[along] },
          second: { value: second ? DIRECTIONS[second] : NOWHERE },
          halves: { value: parts !== null },
          parts: { value: parts ?? 0 },
          count: { value: size },
          asked: { value: size },
          what: { value: what },
          enough: { value: asSeen(INKS.enough) },
          less: { value: asSeen(INKS.less) },
          out_: { value: asSeen(INKS.out) },
          in_: { value: asSeen(INKS.in) },
        },
        clipping: true,
        side: DoubleSide,
        polygonOffset: true,
        polygonOffsetFactor: 1,
        polygonOffsetUnits: 1,
      }),
    [kind, along, second, parts, size, what],
  )
  return <primitive object={made} attach="material" {...clip} />
}
