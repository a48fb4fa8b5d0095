import { Canvas, type ThreeEvent, useThree } from '@react-three/fiber'
import { useSuspenseQuery } from '@tanstack/react-query'
import {
  Component,
  type ReactNode,
  Suspense,
  useDeferredValue,
  useEffect,
  useMemo,
  useRef,
} from 'react'
import { type BufferGeometry, Quaternion, Vector3 } from 'three'
import { CUT, EDGE, FAR, SAWN, TOOL, VISE, drum, edgesOf, prism, shaded } from './drawn'
import type { OnPick, Prism, StageProps } from './types'
import { Copies } from './Copies'
import { Counted } from './Counted'
import { Eye } from './Eye'
import { Labels } from './Labels'
import { NoDrawing } from './NoDrawing'
import { bodyOf, solidAt } from './solidAt'
import { Way } from './Way'

// Half a turn about the middle between X and Z: they change places.
const LAID: [number, number, number, number] = [Math.SQRT1_2, 0, Math.SQRT1_2, 0]
const UPRIGHT: [number, number, number, number] = [0, 0, 0, 1]
const TONES = { jaw: VISE, tool: TOOL, edge: EDGE }
const INK = '#14192b'
const MOVED = 4 // px between pressing and letting go, from which it is a turn and no pick
const BRASS = '#9c5a24'

export default function Stage(props: StageProps) {
  const overlay = useRef<HTMLDivElement>(null)
  return (
    <div className="relative h-full w-full overflow-hidden bg-surface">
      <NoDrawing>
        <Canvas
          orthographic
          frameloop="demand"
          flat
          dpr={[1, 2]}
          gl={{ antialias: true }}
          camera={{ near: -4000, far: 4000, position: [0, 0, 1] }}
        >
          <group quaternion={props.laid ? LAID : UPRIGHT}>
            <Suspense fallback={null}>
              {props.mesh && (
                <Latest
                  url={props.mesh}
                  plain={props.plain}
                  laid={props.laid}
                  far={props.far}
                  onPick={props.onPick}
                />
              )}
            </Suspense>
            {props.copies?.map((each, k) => (
              <Suspense key={k} fallback={null}>
                <Skip key={each.mesh}>
                  <Copies of={each} />
                </Skip>
              </Suspense>
            ))}
            {props.prisms?.map((each, k) => (
              <Bar key={k} of={each} laid={props.laid} />
            ))}
            {props.tool && <Tool tool={props.tool} laid={props.laid} />}
            {props.way && <Way way={props.way} />}
            {props.zero && <Zero />}
          </group>
          <Eye view={props.view} low={props.low} high={props.high} turned={props.turned} />
          <Labels labels={props.labels} overlay={overlay} />
          <Counted />
        </Canvas>
      </NoDrawing>
      <div ref={overlay} className="pointer-events-none absolute inset-0 overflow-hidden" />
    </div>
  )
}

type SolidProps = Pick<StageProps, 'plain' | 'laid' | 'far' | 'onPick'> & { url: string }

// The last solid stays until the next one is there; one that is gone by the time it is asked for is left out.
function Latest(props: SolidProps) {
  const url = useDeferredValue(props.url)
  return (
    <Skip key={url}>
      <Solid {...props} url={url} />
    </Skip>
  )
}

class Skip extends Component<{ children: ReactNode }, { gone: boolean }> {
  state = { gone: false }
  static getDerivedStateFromError() {
    return { gone: true }
  }
  render() {
    return this.state.gone ? null : this.props.children
  }
}

function Solid({ url, plain = false, laid = false, far, onPick }: SolidProps) {
  const { data: file } = useSuspenseQuery(solidAt(url))
  const { body, lines } = useMemo(() => {
    const source = bodyOf(file)
    if (!source) return { body: null, lines: null }
    const bare = source.clone()
    bare.deleteAttribute('_face')
    return {
      body: shaded(
        source,
        (face) => FAR[far?.[face] ?? ''] ?? (plain || face === 1 ? CUT : SAWN),
        laid,
      ),
      lines: edgesOf(bare),
    }
  }, [file, plain, laid, far])
  if (!body || !lines) return null
  return <Shape body={body} lines={lines} onPick={onPick} />
}

function Shape({
  body,
  lines,
  onPick,
}: {
  body: BufferGeometry
  lines: BufferGeometry
  onPick?: OnPick
}) {
  const invalidate = useThree((state) => state.invalidate)
  useEffect(() => invalidate(), [body, invalidate])
  return (
    <>
      <mesh geometry={body} onClick={onPick && ((event) => picked(event, onPick))}>
        <meshBasicMaterial
          vertexColors
          polygonOffset
          polygonOffsetFactor={2}
          polygonOffsetUnits={6}
          side={2}
        />
      </mesh>
      <lineSegments geometry={lines}>
        <lineBasicMaterial color={INK} />
      </lineSegments>
    </>
  )
}

// A click that is no drag, in the solid's own frame.
function picked(event: ThreeEvent<MouseEvent>, onPick: OnPick) {
  if (event.delta > MOVED || !event.face) return
  const at = event.eventObject.worldToLocal(event.point.clone())
  onPick(at.toArray(), event.face.normal.toArray(), 1 / event.camera.zoom)
}

function Drawn({ make, of }: { make: () => BufferGeometry; of: string }) {
  const { body, lines } = useMemo(() => {
    const made = make()
    return { body: made, lines: edgesOf(made) }
  }, [of]) // eslint-disable-line react-hooks/exhaustive-deps
  return <Shape body={body} lines={lines} />
}

function Bar({ of, laid }: { of: Prism; laid?: boolean }) {
  return <Drawn make={() => prism(of, TONES[of.of], laid)} of={JSON.stringify(of)} />
}

function Tool({ tool, laid }: { tool: NonNullable<StageProps['tool']>; laid?: boolean }) {
  const lean = tool.axis
    ? new Quaternion().setFromUnitVectors(
        new Vector3(0, 0, 1),
        new Vector3(...(tool.axis as [number, number, number])),
      )
    : new Quaternion()
  return (
    <group position={tool.at as [number, number, number]} quaternion={lean}>
      {tool.sections.map((each, k) => (
        <Drawn
          key={`${k}${JSON.stringify(each)}`}
          make={() => drum(each.low, each.high, each.lower, each.upper, laid)}
          of={JSON.stringify(each)}
        />
      ))}
    </group>
  )
}

function Zero() {
  const axes = useMemo(
    () => new Float32Array([0, 0, 0, 26, 0, 0, 0, 0, 0, 0, 26, 0, 0, 0, 0, 0, 0, 26]),
    [],
  )
  return (
    <lineSegments renderOrder={5}>
      <bufferGeometry>
        <bufferAttribute attach="attributes-position" args={[axes, 3]} />
      </bufferGeometry>
      <lineBasicMaterial color={BRASS} depthTest={false} />
    </lineSegments>
  )
}
