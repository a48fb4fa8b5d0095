import { useThree } from '@react-three/fiber'
import { useEffect, useRef } from 'react'
import { OrthographicCamera, Vector3 } from 'three'
import type { ViewName } from './types'
import { DIRECTIONS } from './directions'

// Looks at the middle of what there is; dragging turns it, the wheel comes nearer, a view name brings it back.
export function Eye({
  view,
  low,
  high,
  turned,
}: {
  view: ViewName
  low: number[]
  high: number[]
  turned: number
}) {
  const { camera, size, gl, invalidate } = useThree()
  const aim = useRef({ from: DIRECTIONS.iso.from.clone(), up: DIRECTIONS.iso.up.clone(), near: 1 })
  const lowKey = low.join()
  const highKey = high.join()
  const look = () => {
    const eye = camera as OrthographicCamera
    const [a, b] = [
      new Vector3(...(low as [number, number, number])),
      new Vector3(...(high as [number, number, number])),
    ]
    const middle = a.clone().add(b).multiplyScalar(0.5)
    eye.up.copy(aim.current.up)
    eye.position.copy(middle).addScaledVector(aim.current.from.clone().normalize(), 1500)
    eye.lookAt(middle)
    eye.updateMatrixWorld()
    const flat = corners(a, b).map((p) => p.applyMatrix4(eye.matrixWorldInverse))
    const span = (pick: (v: Vector3) => number) =>
      Math.max(...flat.map(pick)) - Math.min(...flat.map(pick)) || 1
    eye.zoom =
      Math.min(size.width / (span((v) => v.x) * 1.16), size.height / (span((v) => v.y) * 1.16)) *
      aim.current.near
    eye.updateProjectionMatrix()
    invalidate()
  }
  useEffect(() => {
    aim.current = {
      from: DIRECTIONS[view].from
        .clone()
        .applyAxisAngle(new Vector3(0, 0, 1), (turned * Math.PI) / 2),
      up: DIRECTIONS[view].up
        .clone()
        .applyAxisAngle(new Vector3(0, 0, 1), view === 'above' ? (turned * Math.PI) / 2 : 0),
      near: 1,
    }
  }, [view, turned])
  useEffect(look, [view, turned, lowKey, highKey, size.width, size.height]) // eslint-disable-line react-hooks/exhaustive-deps
  useEffect(() => {
    const canvas = gl.domElement
    let last: { x: number; y: number } | null = null
    const down = (event: PointerEvent) => {
      last = { x: event.clientX, y: event.clientY }
      canvas.setPointerCapture(event.pointerId)
    }
    const move = (event: PointerEvent) => {
      if (!last) return
      const [dx, dy] = [event.clientX - last.x, event.clientY - last.y]
      last = { x: event.clientX, y: event.clientY }
      const { from } = aim.current
      from.applyAxisAngle(new Vector3(0, 0, 1), -dx * 0.01)
      const across = new Vector3(-from.y, from.x, 0)
      if (across.lengthSq() > 1e-6) {
        const tilted = from.clone().applyAxisAngle(across.normalize(), -dy * 0.01)
        if (Math.hypot(tilted.x, tilted.y) > 0.06 && tilted.dot(from) > 0) from.copy(tilted)
      } else from.set(0.02, -0.06, 1)
      aim.current.up.set(0, 0, 1)
      look()
    }
    const up = () => (last = null)
    const wheel = (event: WheelEvent) => {
      event.preventDefault()
      aim.current.near = Math.min(
        8,
        Math.max(0.4, aim.current.near * Math.exp(-event.deltaY * 0.0012)),
      )
      look()
    }
    canvas.addEventListener('pointerdown', down)
    canvas.addEventListener('pointermove', move)
    canvas.addEventListener('pointerup', up)
    canvas.addEventListener('wheel', wheel, { passive: false })
    return () => {
      canvas.removeEventListener('pointerdown', down)
      canvas.removeEventListener('pointermove', move)
      canvas.removeEventListener('pointerup', up)
      canvas.removeEventListener('wheel', wheel)
    }
  }) // the handlers look at the latest props
  return null
}

function corners(a: Vector3, b: Vector3): Vector3[] {
  return [a.x, b.x].flatMap((x) =>
    [a.y, b.y].flatMap((y) => [a.z, b.z].map((z) => new Vector3(x, y, z))),
  )
}
