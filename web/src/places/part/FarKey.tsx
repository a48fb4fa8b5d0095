import { FAR as TONES } from '../../stage/drawn'
import { useFrame } from '../frame'
import { type Covered, FAR } from './coverage'

// What the colours of the part say, and how many of its places are so far.
export function FarKey({
  coverage,
  shown,
  onShow,
}: {
  coverage: Covered
  shown: boolean
  onShow: (shown: boolean) => void
}) {
  const { evaluation } = useFrame()
  const places = coverage.data
  if (!places || places.length === 0) return null
  return (
    <div className="absolute inset-x-0 bottom-0 flex flex-wrap items-center gap-x-4 gap-y-1 px-4 py-2 text-small">
      <label className="flex items-center gap-1.5">
        <input type="checkbox" checked={shown} onChange={(e) => onShow(e.target.checked)} /> how far
        it is
      </label>
      {shown &&
        FAR.map((stage) => (
          <span key={stage} className="flex items-center gap-1.5">
            <FarMark stage={stage} />
            {stage} <b className="n">{places.filter((each) => each.stage === stage).length}</b>
          </span>
        ))}
      {shown && evaluation && evaluation.left.length > 0 && <span>◌ so much still stands</span>}
    </div>
  )
}

export function FarMark({ stage }: { stage: string }) {
  return (
    <span
      aria-hidden
      className="inline-block size-3 border border-ink-3"
      style={{ background: TONES[stage]?.front }}
    />
  )
}
