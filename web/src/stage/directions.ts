import { Vector3 } from 'three'
import type { ViewName } from './types'

export const DIRECTIONS: Record<ViewName, { from: Vector3; up: Vector3 }> = {
  iso: { from: new Vector3(0.62, -0.92, 0.72), up: new Vector3(0, 0, 1) },
  above: { from: new Vector3(0, 0, 1), up: new Vector3(0, 1, 0) },
  front: { from: new Vector3(0, -1, 0), up: new Vector3(0, 0, 1) },
  side: { from: new Vector3(1, 0, 0), up: new Vector3(0, 0, 1) },
}
