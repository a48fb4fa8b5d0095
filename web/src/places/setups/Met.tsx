import type { OperationResult } from '../../api/client'
import { Figure } from '../../ui/Figure'
import { WhyOf } from '../../ui/WhyOf'
import { useFrame } from '../frame'
import { type Along, look, useAlong, useSpot } from './along'

const WIDE = 480
const HIGH = 34

// The cut as found: what the path meets, and how much of the spindle it asks along its way.
export function Met({ op }: { op: OperationResult }) {
  const { answer, evaluation } = useFrame()
  const known = op.found_depth_mm !== null || op.found_width_mm !== null
  const { data: along, isPending, error, refetch } = useAlong(answer, known ? op.id : null)
  if (!known || !evaluation) return null
  const limit = op.gauges.find((each) => each.id === 'power')?.limit ?? 0
  return (
    <div className="grid grid-cols-[76px_1fr] border-t border-hair py-1">
      <span className="font-semibold">Meets</span>
      <div>
        <p className="flex flex-wrap items-baseline gap-x-4">
          <span>
            at most <Sizes op={op} />
          </span>
          {(evaluation.figures[`${op.id}.found_width`] ??
            evaluation.figures[`${op.id}.found_depth`]) && (
            <span className="text-ink-2">
              said is{' '}
              {op.width_mm === null ? (
                <Figure value={op.depth_mm} quantity="size" />
              ) : (
                <>
                  <Figure value={op.depth_mm} quantity="length" bare /> ×{' '}
                  <Figure value={op.width_mm} quantity="size" />
                </>
              )}
            </span>
          )}
          {op.found_removal_cm3_min !== null && (
            <span>
              <Figure value={op.found_removal_cm3_min} quantity="removal" /> at its peak
            </span>
          )}
        </p>
        {isPending && (
          <p role="status" className="text-small text-ink-2">
            working out …
          </p>
        )}
        {error && (
          <p role="alert" className="text-small text-ink-2">
            What it asks along its way could not be loaded.{' '}
            <button className="link" onClick={() => void refetch()}>
              Try again
            </button>
          </p>
        )}
        {along && <Strip along={along} limit={limit} op={op.id} />}
        {along && (along.coarse_mm ?? 0) > 0 && (
          <p className="text-small text-ink-2">
            Looked at on columns of <Figure value={along.coarse_mm} quantity="size" />: there is too
            much of it for finer ones.
          </p>
        )}
      </div>
    </div>
  )
}

// A turned cut has a depth, a blade a width, a milled one both.
function Sizes({ op }: { op: OperationResult }) {
  const { evaluation } = useFrame()
  if (!evaluation) return null
  const [deep, wide] = [op.found_depth_mm, op.found_width_mm]
  const both = deep !== null && wide !== null
  return (
    <>
      {deep !== null && (
        <WhyOf figure={`${op.id}.found_depth`} evaluation={evaluation} words="Depth it meets">
          <Figure value={deep} quantity={both ? 'length' : 'size'} bare={both} />
        </WhyOf>
      )}
      {both ? ' × ' : deep !== null ? ' deep' : ''}
      {wide !== null && (
        <WhyOf figure={`${op.id}.found_width`} evaluation={evaluation} words="Width it meets">
          <Figure value={wide} quantity="size" />
        </WhyOf>
      )}
      {!both && wide !== null && ' wide'}
    </>
  )
}

// Power over the way in cut, with what the spindle gives as a line. A place of it is shown in the stage: by a click,
// and with the arrow keys from its peak on.
function Strip({ along, limit, op }: { along: Along; limit: number; op: string }) {
  const spot = useSpot(op)
  const most = Math.max(limit, ...along.power_kw) * 1.08 || 1
  const step = WIDE / Math.max(along.power_kw.length, 1)
  const y = (kw: number) => HIGH - (kw / most) * HIGH
  const bars = along.power_kw
    .map(
      (kw, k) =>
        `M${(k * step).toFixed(1)} ${HIGH}V${y(kw).toFixed(1)}h${step.toFixed(2)}V${HIGH}z`,
    )
    .join('')
  const over = along.power_kw
    .map((kw, k) =>
      limit > 0 && kw > limit
        ? `M${(k * step).toFixed(1)} ${y(limit).toFixed(1)}V${y(kw).toFixed(1)}h${step.toFixed(2)}V${y(limit).toFixed(1)}z`
        : '',
    )
    .join('')
  const peak = Math.max(0, ...along.power_kw)
  const last = along.power_kw.length - 1
  const show = (k: number) => look(op, Math.min(Math.max(k, 0), last))
  const steps: Record<string, number> = { ArrowRight: 1, ArrowLeft: -1 }
  return (
    <figure className="mt-1 flex items-end gap-3">
      <svg
        tabIndex={0}
        onClick={(event) => {
          const box = event.currentTarget.getBoundingClientRect()
          show(Math.floor(((event.clientX - box.left) / box.width) * (last + 1)))
        }}
        onKeyDown={(event) => {
          const by = steps[event.key]
          if (event.key === 'Enter') show(along.power_kw.indexOf(peak))
          else if (event.key === 'Escape' && spot !== null) look(op, null)
          else if (by) show((spot ?? along.power_kw.indexOf(peak)) + by)
          else return
          event.preventDefault()
          event.stopPropagation()
        }}
        viewBox={`0 0 ${WIDE} ${HIGH}`}
        preserveAspectRatio="none"
        className="h-[34px] min-w-0 flex-1 cursor-crosshair border-b border-hair-strong"
        role="img"
        aria-label={
          spot === null
            ? 'Power along its way; Enter shows its peak in the drawing'
            : `Power along its way: ${(along.power_kw[spot] ?? 0).toFixed(2)} kW in the drawing`
        }
      >
        <path d={bars} className="fill-ink-3" />
        {over && <path d={over} className="fill-red" />}
        {spot !== null && (
          <rect x={spot * step} width={step} y="0" height={HIGH} className="fill-brass" />
        )}
        {limit > 0 && (
          <line
            x1="0"
            x2={WIDE}
            y1={y(limit)}
            y2={y(limit)}
            className="stroke-ink"
            strokeDasharray="3 3"
            vectorEffect="non-scaling-stroke"
          />
        )}
      </svg>
      <figcaption className="w-[150px] text-small leading-4 text-ink-2">
        up to <Figure value={peak} quantity="power" />
        {limit > 0 && (
          <>
            {' '}
            of <Figure value={limit} quantity="power" />
          </>
        )}
        <br />
        along <Figure value={along.way_mm} quantity="path" />
      </figcaption>
    </figure>
  )
}
