import type { OperationResult } from '../../api/client'
import { Figure } from '../../ui/Figure'
import { clock } from '../../ui/format'
import { useFrame } from '../frame'

type Props = { op: OperationResult; why: string | null; onWhy: (figure: string) => void }

// Where the time of an operation goes.
export function Taken({ op, why, onWhy }: Props) {
  const { evaluation } = useFrame()
  const removalId = `${op.id}.removal`
  const removal = evaluation?.figures[removalId]?.[0]
  return (
    <p className="grid grid-cols-[76px_1fr] items-center border-t border-hair py-1">
      <span className="font-semibold">Time</span>
      <span className="flex flex-wrap items-baseline gap-x-4">
        <span>
          feeds <b className="n">{clock(op.cutting_s)}</b> on{' '}
          <Figure value={op.path_mm} quantity="path" />
          {op.in_cut_s !== null && (
            <span className="text-ink-2">
              {' '}
              (<span className="n">{clock(op.in_cut_s)}</span> in cut)
            </span>
          )}
        </span>
        <span>
          moves <b className="n">{clock(op.moving_s)}</b> on{' '}
          <Figure value={op.rapid_mm} quantity="path" />
        </span>
        <span>
          {op.change_s > 0 ? (
            <>
              tool change <b className="n">{clock(op.change_s)}</b>
            </>
          ) : (
            'same tool as before'
          )}
        </span>
        {op.turned && op.turned.seconds > 0 && (
          <span>
            turns to the tool <b className="n">{clock(op.turned.seconds)}</b>
            {op.turned.side && (op.turned.loose ? `, ${op.turned.loose} not clamped` : ', clamped')}
          </span>
        )}
        {typeof removal === 'number' && (
          <span>
            at <Figure value={removal} quantity="removal" />{' '}
            <button
              className="link text-small"
              aria-label="why the removal rate"
              aria-expanded={why === removalId}
              onClick={() => onWhy(removalId)}
            >
              {why === removalId ? 'hide' : 'why'}
            </button>
          </span>
        )}
        {op.removed_mm3 > 0 && (
          <span>
            takes <Figure value={op.removed_mm3} quantity="volume" />
          </span>
        )}
      </span>
    </p>
  )
}
