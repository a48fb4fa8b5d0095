import type { components } from '../../api/schema'
import type { Evaluation } from '../../api/client'
import { useLibrary } from '../../api/hooks'
import { hours } from './goes'

type Found = NonNullable<components['schemas']['QuantitiesOut']['at_once']>
const WIDE = 560
const ROW = 24
const LEFT = 96

// The batch over several machines at the same time: who runs from when to when, and who waits for whom.
export function AtOnce({ found, evaluation }: { found: Found; evaluation: Evaluation }) {
  const { data: library } = useLibrary()
  const named = (key: string) =>
    String(library?.items.find((i) => i.kind === 'machines' && i.key === key)?.data.name ?? key)
  const machines = [...new Set(found.runs.map((run) => run.machine))]
  const x = (seconds: number) => LEFT + (seconds / found.ends_s) * (WIDE - LEFT - 2)
  const numbers = new Map(evaluation.setups.map((each) => [each.id, each.number]))
  return (
    <section aria-label="Machines at the same time" className="mt-5">
      <h2 className="mb-1 font-semibold">
        Machines at the same time: <span className="n">{hours(found.ends_s)}</span>
        <span className="font-normal text-ink-2">
          {' '}
          instead of <span className="n">{hours(evaluation.batch_s)}</span> one setup after the
          other. {named(found.bottleneck)} is taken up longest.
          {found.ends_s - found.ends_with_enough_s > 60 && (
            <>
              {' '}
              With somebody at each machine, not {found.people} in all, it would be{' '}
              <span className="n">{hours(found.ends_with_enough_s)}</span>.
            </>
          )}
        </span>
      </h2>
      <svg
        width={WIDE}
        height={ROW * machines.length}
        role="img"
        aria-label={found.runs
          .map(
            (run) =>
              `Setup ${numbers.get(run.setup)} on ${named(run.machine)} from ${hours(run.starts_s)} to ${hours(run.ends_s)}`,
          )
          .join(', ')}
        className="block"
      >
        {machines.map((key, row) => (
          <g key={key}>
            <text x={0} y={ROW * row + 16} className="fill-ink text-[13px]">
              {named(key)}
            </text>
            <line
              x1={LEFT}
              x2={WIDE}
              y1={ROW * (row + 0.5)}
              y2={ROW * (row + 0.5)}
              className="stroke-hair-strong"
            />
            {found.runs
              .filter((run) => run.machine === key)
              .map((run) => (
                <g key={run.setup}>
                  <rect
                    x={x(run.starts_s)}
                    y={ROW * row + 4}
                    width={Math.max(x(run.ends_s) - x(run.starts_s), 1)}
                    height={ROW - 8}
                    className={key === found.bottleneck ? 'fill-mark' : 'fill-scribe-dim'}
                  />
                  <text
                    x={x(run.starts_s) + 5}
                    y={ROW * row + 16}
                    className={`n text-[11px] ${key === found.bottleneck ? 'fill-white' : 'fill-ink'}`}
                  >
                    {numbers.get(run.setup)}
                  </text>
                </g>
              ))}
          </g>
        ))}
      </svg>
      <ul className="mt-1 text-small text-ink-2">
        {found.runs.map((run) => (
          <li key={run.setup}>
            Setup <span className="n">{numbers.get(run.setup)}</span> on {named(run.machine)} starts
            after <span className="n">{hours(run.starts_s)}</span>
            {run.waits_s > 1
              ? `, then waits ${hours(run.waits_s)} for parts in all`
              : ' and never waits for parts'}
            {run.alone_s > 1
              ? `, and waits ${hours(run.alone_s)} for somebody to put them in.`
              : '.'}
          </li>
        ))}
      </ul>
    </section>
  )
}
