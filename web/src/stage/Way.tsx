import { useThree } from '@react-three/fiber'
import { useEffect, useMemo } from 'react'
import { Color } from 'three'
import type { StageProps } from './types'

const [LIGHT, HEAVY, OVER] = ['#8f9bd0', '#14192b', '#c4202f'].map((each) => new Color(each))
const BEAD_PX = 3.2

// Where the tip goes, bead by bead: the darker the more is asked of the spindle, red what it does not give.
export function Way({ way }: { way: NonNullable<StageProps['way']> }) {
  const invalidate = useThree((state) => state.invalidate)
  const { spots, tones } = useMemo(() => {
    const mixed = new Color()
    return {
      spots: new Float32Array(way.at.flat()),
      tones: new Float32Array(
        way.load.flatMap((share) =>
          (share > 1 ? OVER! : mixed.lerpColors(LIGHT!, HEAVY!, share)).toArray(),
        ),
      ),
    }
  }, [way])
  useEffect(() => invalidate(), [spots, invalidate])
  return (
    <points key={spots.length} renderOrder={4}>
      <bufferGeometry key={`${spots[0]}${spots.length}${tones[0]}`}>
        <bufferAttribute attach="attributes-position" args={[spots, 3]} />
        <bufferAttribute attach="attributes-color" args={[tones, 3]} />
      </bufferGeometry>
      <pointsMaterial size={BEAD_PX} sizeAttenuation={false} vertexColors />
    </points>
  )
}
