import { addAfterEffect, useThree } from '@react-three/fiber'
import { useEffect } from 'react'

// What the last picture took, kept at the canvas: how often it was drawn, in how many calls, of how many triangles.
export function Counted() {
  const gl = useThree((state) => state.gl)
  useEffect(
    () =>
      addAfterEffect(() => {
        const { frame, calls, triangles } = gl.info.render
        Object.assign(gl.domElement.dataset, { frame, calls, triangles })
      }),
    [gl],
  )
  return null
}
