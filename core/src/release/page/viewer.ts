/**
 * The script of a page that shows a piece: turned by dragging, nearer by the wheel, moved with the right button or two fingers. It asks
 * nothing of any other place.
 */
export const VIEWER = `
'use strict'
const data = JSON.parse(document.getElementById('piece').textContent)
const canvas = document.querySelector('canvas')
const gl = canvas.getContext('webgl', { antialias: true })
const bytes = (t) => Uint8Array.from(atob(t), (c) => c.charCodeAt(0)).buffer
const note = document.getElementById('said')
if (!gl) note.textContent = 'This browser shows no 3D here; the readings below stand all the same.'
else show()
function show() {
  gl.getExtension('OES_element_index_uint')
  const shader = (type, text) => {
    const s = gl.createShader(type)
    gl.shaderSource(s, text)
    gl.compileShader(s)
    return s
  }
  const program = gl.createProgram()
  gl.attachShader(program, shader(gl.VERTEX_SHADER,
    'attribute vec3 p; attribute vec3 n; uniform mat4 m; uniform mat3 r; varying vec3 v; void main() { v = r * n; gl_Position = m * vec4(p, 1.0); }'))
  gl.attachShader(program, shader(gl.FRAGMENT_SHADER,
    'precision mediump float; varying vec3 v; uniform vec3 c; void main() { vec3 n = normalize(v); if (n.z < 0.0) n = -n; float l = 0.35 + 0.5 * max(dot(n, normalize(vec3(-0.4, 0.5, 0.8))), 0.0) + 0.2 * n.z; gl_FragColor = vec4(c * l, 1.0); }'))
  gl.linkProgram(program)
  gl.useProgram(program)
  const at = (name) => gl.getUniformLocation(program, name)
  const [uM, uR, uC] = [at('m'), at('r'), at('c')]
  const [aP, aN] = ['p', 'n'].map((k) => gl.getAttribLocation(program, k))
  const bodies = data.bodies.map((b) => {
    const buffer = (kind, array) => {
      const x = gl.createBuffer()
      gl.bindBuffer(kind, x)
      gl.bufferData(kind, array, gl.STATIC_DRAW)
      return x
    }
    const triangles = new Uint32Array(bytes(b.triangles))
    return {
      color: [1, 3, 5].map((k) => parseInt(b.color.slice(k, k + 2), 16) / 255),
      p: buffer(gl.ARRAY_BUFFER, new Float32Array(bytes(b.positions))),
      n: buffer(gl.ARRAY_BUFFER, new Float32Array(bytes(b.normals))),
      t: buffer(gl.ELEMENT_ARRAY_BUFFER, triangles),
      count: triangles.length,
    }
  })
  const [mid, size] = [data.middle, data.radius]
  let [turn, tilt, zoom, dx, dy] = [-0.6, 0.45, 1, 0, 0]
  const draw = () => {
    const k = window.devicePixelRatio || 1
    canvas.width = canvas.clientWidth * k
    canvas.height = canvas.clientHeight * k
    gl.viewport(0, 0, canvas.width, canvas.height)
    gl.clearColor(0.965, 0.945, 0.894, 1)
    gl.clear(gl.COLOR_BUFFER_BIT | gl.DEPTH_BUFFER_BIT)
    gl.enable(gl.DEPTH_TEST)
    const [c, s, d, e] = [Math.cos(turn), Math.sin(turn), Math.cos(tilt), Math.sin(tilt)]
    const R = [[c, -s, 0], [s * e, c * e, d], [s * -d, c * -d, e]]
    const a = canvas.width / canvas.height
    const f = (zoom * 0.9) / size
    const w = [f / Math.max(1, a), f * Math.min(1, a), -0.4 / size]
    const m = new Float32Array(16)
    for (let i = 0; i < 3; i++) {
      for (let j = 0; j < 3; j++) m[4 * j + i] = R[i][j] * w[i]
      m[12 + i] = -(R[i][0] * mid[0] + R[i][1] * mid[1] + R[i][2] * mid[2]) * w[i] + [dx, dy, 0][i]
    }
    m[15] = 1
    gl.uniformMatrix4fv(uM, false, m)
    gl.uniformMatrix3fv(uR, false, new Float32Array([0, 1, 2].flatMap((j) => [0, 1, 2].map((i) => R[i][j]))))
    for (const b of bodies) {
      gl.uniform3fv(uC, b.color)
      gl.bindBuffer(gl.ARRAY_BUFFER, b.p)
      gl.enableVertexAttribArray(aP)
      gl.vertexAttribPointer(aP, 3, gl.FLOAT, false, 0, 0)
      gl.bindBuffer(gl.ARRAY_BUFFER, b.n)
      gl.enableVertexAttribArray(aN)
      gl.vertexAttribPointer(aN, 3, gl.FLOAT, false, 0, 0)
      gl.bindBuffer(gl.ELEMENT_ARRAY_BUFFER, b.t)
      gl.drawElements(gl.TRIANGLES, b.count, gl.UNSIGNED_INT, 0)
    }
  }
  canvas.addEventListener('pointerdown', (e) => canvas.setPointerCapture(e.pointerId))
  canvas.addEventListener('pointermove', (e) => {
    if (!e.buttons) return
    if (e.buttons & 2 || e.shiftKey) {
      dx += (2 * e.movementX) / canvas.clientWidth
      dy -= (2 * e.movementY) / canvas.clientHeight
    } else {
      turn -= e.movementX * 0.01
      tilt = Math.max(-1.57, Math.min(1.57, tilt + e.movementY * 0.01))
    }
    draw()
  })
  canvas.addEventListener('contextmenu', (e) => e.preventDefault())
  canvas.addEventListener('wheel', (e) => {
    e.preventDefault()
    zoom = Math.max(0.2, Math.min(30, zoom * Math.exp(-e.deltaY * 0.001)))
    draw()
  }, { passive: false })
  canvas.addEventListener('keydown', (e) => {
    const step = { ArrowLeft: [-0.1, 0], ArrowRight: [0.1, 0], ArrowUp: [0, 0.1], ArrowDown: [0, -0.1] }[e.key]
    if (step) {
      turn += step[0]
      tilt += step[1]
    } else if (e.key === '+' || e.key === '-') zoom *= e.key === '+' ? 1.1 : 1 / 1.1
    else return
    e.preventDefault()
    draw()
  })
  window.addEventListener('resize', draw)
  draw()
}
`
