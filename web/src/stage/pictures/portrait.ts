import { type DisplayMesh, SECTION } from '@ivory/core/turned'
import {
  BufferAttribute,
  BufferGeometry,
  DirectionalLight,
  DoubleSide,
  HemisphereLight,
  LineBasicMaterial,
  LineSegments,
  Mesh,
  MeshBasicMaterial,
  MeshStandardMaterial,
  PerspectiveCamera,
  Scene,
  Sphere,
  Vector3,
  WebGLRenderer,
} from 'three'
import { VIEWS } from '../views'

/** A body as it is pictured. */
export interface Sitter {
  mesh: DisplayMesh
  color: string
}
/** Paper that pictures stand on. */
const GROUND = '#f6f1e4'

/** Where pictures are drawn, off the page; undefined without WebGL. It has to be closed. */
export class Studio {
  readonly canvas = document.createElement('canvas')
  readonly #gl: WebGLRenderer
  readonly #scene = new Scene()
  readonly #camera: PerspectiveCamera
  readonly #ball: Sphere
  readonly #made: { dispose(): void }[] = []

  static open(bodies: readonly Sitter[], w: number, h: number, ground = true): Studio | undefined {
    try {
      return new Studio(bodies, w, h, ground)
    } catch {
      return undefined
    }
  }

  private constructor(bodies: readonly Sitter[], w: number, h: number, ground: boolean) {
    this.canvas.width = w
    this.canvas.height = h
    this.#gl = new WebGLRenderer({
      canvas: this.canvas,
      antialias: true,
      alpha: !ground,
      preserveDrawingBuffer: true,
    })
    this.#gl.setClearColor(GROUND, ground ? 1 : 0)
    const low = new DirectionalLight('#ffffff', 1.7)
    low.position.set(-200, -400, 500)
    const high = new DirectionalLight('#ffffff', 0.5)
    high.position.set(400, 200, 200)
    this.#scene.add(new HemisphereLight('#fffaf0', '#b8a98a', 1.5), low, high)
    for (const b of bodies) this.#seat(b)
    this.#camera = new PerspectiveCamera(30, w / h, 1, 100_000)
    this.#ball = ballOf(bodies)
  }

  #seat({ mesh, color }: Sitter): void {
    const keep = <T extends { dispose(): void }>(x: T): T => {
      this.#made.push(x)
      return x
    }
    const skin = keep(new MeshStandardMaterial({ color, roughness: 0.62, side: DoubleSide }))
    const cut = keep(new MeshBasicMaterial({ color: '#e8cf94', side: DoubleSide }))
    for (const [wanted, material] of [
      [(f: string) => f !== SECTION, skin],
      [(f: string) => f === SECTION, cut],
    ] as const)
      this.#scene.add(new Mesh(keep(facesOf(mesh, wanted)), material))
    const lines = keep(new BufferGeometry())
    lines.setAttribute('position', new BufferAttribute(mesh.lines, 3))
    this.#scene.add(new LineSegments(lines, keep(new LineBasicMaterial({ color: '#4a4033' }))))
  }

  /** Draws them from a standard view, turned about the upright line by so much, rad. */
  draw(view: string, turn = 0): void {
    const from = new Vector3(...(VIEWS[view] ?? VIEWS.corner!)).normalize()
    from.applyAxisAngle(new Vector3(0, 0, 1), turn)
    const { fov, aspect } = this.#camera
    const half = Math.atan(Math.tan((fov * Math.PI) / 360) * Math.min(1, aspect))
    const distance = (this.#ball.radius * 1.08) / Math.sin(half)
    this.#camera.up.set(0, 0, 1)
    this.#camera.position.copy(this.#ball.center).addScaledVector(from, distance)
    this.#camera.lookAt(this.#ball.center)
    this.#gl.render(this.#scene, this.#camera)
  }

  close(): void {
    for (const x of this.#made) x.dispose()
    this.#gl.dispose()
    this.#gl.forceContextLoss()
  }
}

/** Bodies as the Stage would show them from the corner, as a data address; undefined without WebGL. */
export function portrait(bodies: readonly Sitter[]): string | undefined {
  const studio = Studio.open(bodies, 320, 200)
  studio?.draw('corner')
  const picture = studio?.canvas.toDataURL('image/webp', 0.8)
  studio?.close()
  return picture
}

/** A picture as PNG; undefined without WebGL. */
export async function picturePng(
  bodies: readonly Sitter[],
  { width, height, view, clear }: { width: number; height: number; view: string; clear: boolean },
): Promise<Uint8Array | undefined> {
  const studio = Studio.open(bodies, width, height, !clear)
  if (!studio) return undefined
  studio.draw(view)
  const blob = await new Promise<Blob | null>((done) => studio.canvas.toBlob(done, 'image/png'))
  studio.close()
  return blob ? new Uint8Array(await blob.arrayBuffer()) : undefined
}

/** How many pictures a turn has, and how long each stands, ms. */
const [STEPS, STANDS] = [36, 80]

/** A turn about the upright line as an animated GIF that goes on for ever; undefined without WebGL. */
export async function turnGif(
  bodies: readonly Sitter[],
  width: number,
  height: number,
): Promise<Uint8Array | undefined> {
  const { GIFEncoder, applyPalette, quantize } = await import('gifenc')
  const studio = Studio.open(bodies, width, height)
  if (!studio) return undefined
  const flat = document.createElement('canvas')
  flat.width = width
  flat.height = height
  const ctx = flat.getContext('2d', { willReadFrequently: true })!
  const gif = GIFEncoder()
  let palette: number[][] | undefined
  for (let k = 0; k < STEPS; k++) {
    studio.draw('corner', (2 * Math.PI * k) / STEPS)
    ctx.drawImage(studio.canvas, 0, 0)
    const { data } = ctx.getImageData(0, 0, width, height)
    // One palette for all, or colours would flicker.
    palette ??= quantize(data, 256)
    gif.writeFrame(applyPalette(data, palette), width, height, {
      ...(k === 0 ? { palette, repeat: 0 } : {}),
      delay: STANDS,
    })
    // The page stays in hand between two.
    await new Promise((done) => setTimeout(done))
  }
  gif.finish()
  studio.close()
  return gif.bytes()
}

function facesOf(mesh: DisplayMesh, wanted: (face: string) => boolean): BufferGeometry {
  const index: number[] = []
  for (let t = 0; t < mesh.faceOf.length; t++)
    if (wanted(mesh.faces[mesh.faceOf[t]!]!))
      index.push(...mesh.triangles.subarray(3 * t, 3 * t + 3))
  const g = new BufferGeometry()
  g.setAttribute('position', new BufferAttribute(mesh.positions, 3))
  g.setAttribute('normal', new BufferAttribute(mesh.normals, 3))
  g.setIndex(index)
  return g
}

/** A ball about all of them. */
function ballOf(bodies: readonly Sitter[]): Sphere {
  const points: Vector3[] = []
  for (const { mesh } of bodies)
    for (let i = 0; i < mesh.positions.length; i += 30)
      points.push(
        new Vector3(...(mesh.positions.subarray(i, i + 3) as unknown as [number, number, number])),
      )
  return new Sphere().setFromPoints(points)
}
