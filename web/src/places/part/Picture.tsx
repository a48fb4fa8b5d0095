import { Suspense, useMemo, useState } from 'react'
import { useHotkeys } from 'react-hotkeys-hook'
import { useUnits } from '../../app/units'
import type { Label } from '../../stage/types'
import { Loading } from '../../ui/States'
import { useFrame } from '../frame'
import { standingLabels } from '../standing'
import { Stage } from './stage'

const NOTHING: Label[] = []

export function Picture({ far }: { far?: Record<number, string> }) {
  const { answer, evaluation } = useFrame()
  const { system } = useUnits()
  const [turned, setTurned] = useState(0)
  useHotkeys('t', () => setTurned((now) => (now + 1) % 4))
  const left = far && evaluation?.left
  const labels = useMemo(() => (left ? standingLabels(left, system) : NOTHING), [left, system])
  const size = evaluation?.part_size
  const part = answer.plan.part
  const shape = part?.geometry || JSON.stringify([part?.size_mm, part?.typed])
  const low = evaluation?.part_low ?? [0, 0, 0]
  if (!evaluation) return <Loading what="the solid" />
  if (!size || evaluation.problem)
    return <p className="p-6 text-ink-2">{evaluation.problem || 'No solid yet.'}</p>
  return (
    <Suspense fallback={<Loading what="the drawing" />}>
      <Stage
        mesh={`/api/plans/${answer.id}/part.glb?v=${encodeURIComponent(hash(shape))}`}
        plain
        far={far}
        zero={false}
        view="iso"
        turned={turned}
        low={low}
        high={low.map((each, k) => each + size[k]!)}
        labels={labels}
      />
    </Suspense>
  )
}

function hash(text: string): string {
  let value = 0
  for (const letter of text) value = (value * 31 + letter.charCodeAt(0)) | 0
  return (value >>> 0).toString(36)
}
