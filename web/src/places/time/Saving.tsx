import { Link } from 'react-router'
import type { Evaluation } from '../../api/client'
import type { components } from '../../api/schema'
import { Bought } from '../../ui/Bought'
import { Sentence } from '../../ui/Figure'
import { clock } from '../../ui/format'
import { useFrame } from '../frame'
import { Changed } from './Changed'
import { seconds } from './goes'

const signed = (value: number) => `${value < 0 ? '−' : '+'}${Math.abs(value).toFixed(2)}`
export type Row = components['schemas']['SavingOut']
const LEAST_S = 0.05

// A change that was worked out as a plan of its own; `outer` does all of it and more. One of the plan as it was
// before the last edit can't be taken.
export function Saving({
  row,
  outer,
  first,
  current,
  evaluation,
  onTake,
}: {
  row: Row
  outer?: Row
  first: boolean
  current: boolean
  evaluation: Evaluation | null
  onTake: () => void
}) {
  return (
    <li className="grid grid-cols-[76px_1fr_auto] items-start gap-x-3 border-t border-hair py-2">
      <span>
        <b className="n">
          {row.one_part_s < LEAST_S ? '' : '−'}
          {seconds(Math.max(row.one_part_s, 0))}
        </b>
        <span className="n block text-small text-ink-2">−{clock(row.batch_s)}</span>
        {row.cost !== null && (
          <span className="block text-small text-ink-2">
            cost <span className="n">{signed(-row.cost)}</span>
          </span>
        )}
      </span>
      <span>
        <Where of={row.of} setup={row.setup} evaluation={evaluation} />
        <Sentence text={row.said.text} values={row.said.values} />
        {outer && (
          <span className="block text-small text-ink-2">
            part of: <Sentence text={outer.said.text} values={outer.said.values} />
          </span>
        )}
        {row.because.text && (
          <span className="block text-small text-ink-2">
            <Sentence text={row.because.text} values={row.because.values} />
          </span>
        )}
        {row.each.length > 0 && <Changed each={row.each} evaluation={evaluation} />}
        {row.pays_from !== null && row.buys.every((each) => each.missing === 0) && (
          <span className="block text-small text-ink-2">
            with a tool loaded for it: pays from <span className="n">{row.pays_from}</span>{' '}
            {row.pays_from === 1 ? 'part' : 'parts'} on
            {row.buys.length === 0 && row.cost !== null && row.cost > 0 && (
              <>
                ; one that is bought for it may cost{' '}
                <span className="n">{row.cost.toFixed(2)}</span>
              </>
            )}
          </span>
        )}
        {row.buys.length > 0 && (
          <span className="block text-small text-amber-edge">
            To buy: <Bought buys={row.buys} />. <Pays row={row} />
          </span>
        )}
        {row.looks.map((look, k) => (
          <span key={k} className="block text-small text-amber-edge">
            To look at then: <Sentence text={look.text} values={look.values} />
          </span>
        ))}
      </span>
      <button className={first ? 'press' : 'press-2'} disabled={!current} onClick={onTake}>
        Take it
      </button>
    </li>
  )
}

// From how many parts on what is bought for it is worth it, where its price is known.
function Pays({ row }: { row: Row }) {
  const quantity = useFrame().answer.plan.quantity ?? 1
  const missing = row.buys.filter((each) => each.missing > 0)
  if (missing.length === 0 || missing.some((each) => each.cost === null) || row.cost === null)
    return null
  if (row.buys_from === null) return 'It does not pay.'
  return (
    <>
      It pays from <span className="n">{row.buys_from}</span> parts on
      {row.buys_from > quantity && (
        <>
          , more than the <span className="n">{quantity}</span> ordered
        </>
      )}
      .
    </>
  )
}

// The operation or setup that a change is of.
export function Where({
  of,
  setup,
  evaluation,
}: {
  of: string
  setup: string
  evaluation: Evaluation | null
}) {
  const there = evaluation?.setups.find((each) => each.id === setup)
  const op = there?.operations.find((each) => each.id === of.split('/')[0])
  if (!there) return null
  return (
    <span className="text-ink-2">
      {op ? (
        <Link className="link" to={`../setups?op=${op.id}`}>
          <span className="n">
            {there.number}/{op.number}
          </span>{' '}
          {op.title}
        </Link>
      ) : (
        `Setup ${there.number}`
      )}
      :{' '}
    </span>
  )
}
