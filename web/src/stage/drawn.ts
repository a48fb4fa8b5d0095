// Shapes as they would be drawn: a flat tone for each direction a face looks, and the solid's own edges as lines.
import {
  BufferAttribute,
  BufferGeometry,
  Color,
  CylinderGeometry,
  EdgesGeometry,
  ExtrudeGeometry,
  Shape,
  Vector2,
  Vector3,
} from 'three'
import { turnOf } from './matrix'
import type { Prism } from './types'

export type Tones = { top: string; front: string; side: string }
export const SAWN: Tones = { top: '#dfe3ea', front: '#c3c9d6', side: '#aab2c3' }
export const CUT: Tones = { top: '#eef2fd', front: '#ced7f2', side: '#b2bee6' }
export const VISE: Tones = { top: '#e6e9ef', front: '#ccd2dd', side: '#b4bccb' }
export const TOOL: Tones = { top: '#f4f6fa', front: '#dde2ea', side: '#bfc6d3' }
export const EDGE: Tones = { top: '#f0d3b4', front: '#e0a36b', side: '#c98b52' }

// How far a face of the part is: as it is still, roughed, finished, finished and measured.
export const FAR: Record<string, Tones> = {
  'not yet': { top: '#b9bfcc', front: '#9aa3b8', side: '#858ea6' },
  roughed: { top: '#e6e9ef', front: '#d3d8e2', side: '#c3c9d6' },
  finished: CUT,
  checked: { top: '#bcc7eb', front: '#a3b0dc', side: '#8f9bd0' },
}

const tone = new Map<Tones, Color[]>()
function colours(tones: Tones): Color[] {
  let found = tone.get(tones)
  if (!found)
    tone.set(tones, (found = [tones.side, tones.front, tones.top].map((each) => new Color(each))))
  return found
}

// Every triangle gets its own colour; ``tonesOf`` picks the set by the face it lies on.
// ``laid`` is for what the stage shows with its X upwards.
export function shaded(
  geometry: BufferGeometry,
  tonesOf: (face: number) => Tones,
  laid = false,
): BufferGeometry {
  const flat = geometry.index ? geometry.toNonIndexed() : geometry
  const at = flat.getAttribute('position')
  const faces = flat.getAttribute('_face') as BufferAttribute | undefined
  const paint = new Float32Array(at.count * 3)
  const [a, b, c, normal, mixed] = [
    new Vector3(),
    new Vector3(),
    new Vector3(),
    new Vector3(),
    new Color(),
  ]
  for (let k = 0; k < at.count; k += 3) {
    a.fromBufferAttribute(at, k)
    b.fromBufferAttribute(at, k + 1)
    c.fromBufferAttribute(at, k + 2)
    normal.subVectors(b, a).cross(c.sub(a)).normalize()
    const [side, front, top] = colours(tonesOf(faces ? faces.getX(k) : 1))
    const [x, y, z] = laid
      ? [normal.z ** 2, normal.y ** 2, normal.x ** 2]
      : [normal.x ** 2, normal.y ** 2, normal.z ** 2]
    mixed.setRGB(
      side!.r * x + front!.r * y + top!.r * z,
      side!.g * x + front!.g * y + top!.g * z,
      side!.b * x + front!.b * y + top!.b * z,
    )
    for (let corner = 0; corner < 3; corner++) mixed.toArray(paint, 3 * (k + corner))
  }
  flat.setAttribute('color', new BufferAttribute(paint, 3))
  return flat
}

export function prism(
  { corners, low, high, axis, turn }: Omit<Prism, 'of'>,
  tones: Tones,
  laid = false,
): BufferGeometry {
  const geometry = new ExtrudeGeometry(
    new Shape(corners.map(([a = 0, b = 0]) => new Vector2(a, b))),
    { depth: high - low, bevelEnabled: false },
  )
  if (axis === 'y') geometry.rotateX(Math.PI / 2).translate(0, high, 0)
  else if (axis === 'x')
    geometry
      .rotateX(Math.PI / 2)
      .rotateZ(Math.PI / 2)
      .translate(low, 0, 0)
  else geometry.translate(0, 0, low)
  if (turn) geometry.applyMatrix4(turnOf(turn))
  geometry.deleteAttribute('uv')
  return shaded(geometry, () => tones, laid)
}

export function drum(
  z0: number,
  z1: number,
  lower: number,
  upper: number,
  laid = false,
): BufferGeometry {
  const geometry = new CylinderGeometry(upper, Math.max(lower, 0.01), z1 - z0, 40)
  geometry.rotateX(Math.PI / 2)
  geometry.translate(0, 0, (z0 + z1) / 2)
  return shaded(geometry, () => TOOL, laid)
}

export const edgesOf = (geometry: BufferGeometry) => new EdgesGeometry(geometry, 25)
