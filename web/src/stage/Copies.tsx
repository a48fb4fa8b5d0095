import { useSuspenseQuery } from '@tanstack/react-query'
import { useThree } from '@react-three/fiber'
import { useEffect, useLayoutEffect, useMemo, useRef } from 'react'
import { type BufferGeometry, type InstancedMesh, Matrix4 } from 'three'
import { mergeGeometries } from 'three/examples/jsm/utils/BufferGeometryUtils.js'
import { CUT, SAWN, VISE, edgesOf, prism, shaded } from './drawn'
import { matrixOf } from './matrix'
import { bodyOf, solidAt } from './solidAt'
import type { Copy } from './types'

const INK = '#14192b'

// Equal parts where they stand besides the one that is looked at. All that looks the same way is drawn at once.
export function Copies({ of }: { of: Copy }) {
  const { data: file } = useSuspenseQuery(solidAt(of.mesh))
  const invalidate = useThree((state) => state.invalidate)
  const drawn = useMemo(() => {
    const body = bodyOf(file)
    if (!body) return null
    return turnedAlike(of.at).map((each) => together(body, of, each))
  }, [file, of])
  useEffect(() => invalidate(), [drawn, invalidate])
  return drawn?.map((each, k) => (
    <group key={k}>
      <Many of={each.body} at={each.at} />
      {each.held && <Many of={each.held} at={each.at} />}
      <lineSegments geometry={each.lines}>
        <lineBasicMaterial color={INK} />
      </lineSegments>
    </group>
  ))
}

function Many({ of, at }: { of: BufferGeometry; at: Matrix4[] }) {
  const mesh = useRef<InstancedMesh>(null)
  useLayoutEffect(() => {
    at.forEach((each, k) => mesh.current?.setMatrixAt(k, each))
    if (mesh.current) mesh.current.instanceMatrix.needsUpdate = true
    mesh.current?.computeBoundingSphere()
  }, [of, at])
  return (
    <instancedMesh key={of.uuid} ref={mesh} args={[of, undefined, at.length]}>
      <meshBasicMaterial
        vertexColors
        polygonOffset
        polygonOffsetFactor={2}
        polygonOffsetUnits={6}
        side={2}
      />
    </instancedMesh>
  )
}

type Alike = { turn: Matrix4; at: Matrix4[] }

// Which of them look the same way, so that one shading serves them.
export function turnedAlike(at: number[][]): Alike[] {
  const found = new Map<string, Alike>()
  for (const rows of at) {
    const matrix = matrixOf(rows)
    const move = new Matrix4().makeTranslation(rows[3]!, rows[7]!, rows[11]!)
    const turn = new Matrix4().copy(matrix).setPosition(0, 0, 0)
    const key = turn.elements.map((each) => each.toFixed(6)).join()
    const alike = found.get(key) ?? { turn, at: [] }
    alike.at.push(move)
    found.set(key, alike)
  }
  return [...found.values()]
}

function together(source: BufferGeometry, of: Copy, { turn, at }: Alike) {
  const turned = source.clone().applyMatrix4(turn)
  const bare = turned.clone()
  bare.deleteAttribute('_face')
  const held = of.prisms.map((each) => prism(each, VISE).applyMatrix4(turn))
  const edges = [bare, ...held].map(edgesOf)
  const everywhere = at.flatMap((move) => edges.map((each) => each.clone().applyMatrix4(move)))
  return {
    at,
    body: shaded(turned, (face) => (face === 1 ? CUT : SAWN)),
    held: held.length ? shaded(mergeGeometries(held), () => VISE) : null,
    lines: mergeGeometries(everywhere),
  }
}
