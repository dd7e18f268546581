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
import { VIEWS } from './views'

const SIZE = { w: 320, h: 200 }

/** Bodies as the Stage would show them from the corner, as a data address; undefined without WebGL. */
export function portrait(
  bodies: readonly { mesh: DisplayMesh; color: string }[],
): string | undefined {
  const canvas = document.createElement('canvas')
  canvas.width = SIZE.w
  canvas.height = SIZE.h
  let gl: WebGLRenderer
  try {
    gl = new WebGLRenderer({ canvas, antialias: true, preserveDrawingBuffer: true })
  } catch {
    return undefined
  }
  const scene = new Scene()
  const low = new DirectionalLight('#ffffff', 1.7)
  low.position.set(-200, -400, 500)
  const high = new DirectionalLight('#ffffff', 0.5)
  high.position.set(400, 200, 200)
  scene.add(new HemisphereLight('#fffaf0', '#b8a98a', 1.5), low, high)
  const made: { dispose(): void }[] = []
  const keep = <T extends { dispose(): void }>(x: T): T => {
    made.push(x)
    return x
  }
  for (const { mesh, color } of bodies) {
    const skin = keep(new MeshStandardMaterial({ color, roughness: 0.62, side: DoubleSide }))
    const cut = keep(new MeshBasicMaterial({ color: '#e8cf94', side: DoubleSide }))
    for (const [wanted, material] of [
      [(f: string) => f !== SECTION, skin],
      [(f: string) => f === SECTION, cut],
    ] as const)
      scene.add(new Mesh(keep(facesOf(mesh, wanted)), material))
    const lines = keep(new BufferGeometry())
    lines.setAttribute('position', new BufferAttribute(mesh.lines, 3))
    scene.add(new LineSegments(lines, keep(new LineBasicMaterial({ color: '#4a4033' }))))
  }
  const camera = new PerspectiveCamera(30, SIZE.w / SIZE.h, 1, 10_000)
  frame(camera, bodies)
  gl.setClearColor('#f6f1e4')
  gl.render(scene, camera)
  const picture = canvas.toDataURL('image/webp', 0.8)
  for (const x of made) x.dispose()
  gl.dispose()
  gl.forceContextLoss()
  return picture
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

/** Puts the camera at the corner, as far off as all bodies need. */
function frame(camera: PerspectiveCamera, bodies: readonly { mesh: DisplayMesh }[]) {
  const points: Vector3[] = []
  for (const { mesh } of bodies)
    for (let i = 0; i < mesh.positions.length; i += 30)
      points.push(
        new Vector3(...(mesh.positions.subarray(i, i + 3) as unknown as [number, number, number])),
      )
  const ball = new Sphere().setFromPoints(points)
  const from = new Vector3(...VIEWS.corner!).normalize()
  const distance = (ball.radius * 1.08) / Math.sin((camera.fov * Math.PI) / 360)
  camera.up.set(0, 0, 1)
  camera.position.copy(ball.center).addScaledVector(from, distance)
  camera.lookAt(ball.center)
}
