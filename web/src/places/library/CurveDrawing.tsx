import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { api, ask, type PlanAnswer } from '../../api/client'
import { useUnits } from '../../app/units'
import { show } from '../../ui/format'
import { Chart, type Range, type Spot } from './CurveChart'

type Data = Record<string, unknown>
type Turning = { id: string; turns: string; curves_at: string; ranges: Range[] }

// What the spindle gives over its speed, and what the operations of a plan ask of it: two small charts on one speed scale.
export function CurveDrawing({
  data,
  machine,
  jobs,
}: {
  data: Data
  machine: string
  jobs: string[]
}) {
  const { system } = useUnits()
  const [job, setJob] = useState(jobs[0] ?? '')
  const [at, setAt] = useState<string | null>(null)
  const spindles = data.spindles as Turning[]
  const [named, setNamed] = useState(spindles[0]?.id ?? '')
  const spindle = spindles.find((each) => each.id === named) ?? spindles[0]!
  const spots = useSpots(job, machine, spindle.id)
  const ranges = spindle.ranges
  const speed = Math.max(...ranges.map((each) => each.max_rpm))
  const chosen = spots.find((spot) => spot.id === at)
  return (
    <figure>
      {spindles.length > 1 && (
        <label className="mb-1 flex items-center gap-2 text-small">
          Spindle
          <select
            className="field"
            value={spindle.id}
            onChange={(event) => setNamed(event.target.value)}
          >
            {spindles.map(({ id, turns }) => (
              <option key={id} value={id}>
                {id}, turns the {turns}
              </option>
            ))}
          </select>
        </label>
      )}
      {jobs.length > 0 && (
        <label className="mb-1 flex items-center gap-2 text-small">
          Operations of
          <select className="field" value={job} onChange={(event) => setJob(event.target.value)}>
            <option value="">no job</option>
            {jobs.map((each) => (
              <option key={each}>{each}</option>
            ))}
          </select>
        </label>
      )}
      <Chart
        title="Power"
        quantity="power"
        ranges={ranges}
        speed={speed}
        pick={(p) => p.power_kw}
        spots={spots}
        value={(spot) => spot.power}
        at={at}
        onAt={setAt}
      />
      <Chart
        title="Torque"
        quantity="torque"
        ranges={ranges}
        speed={speed}
        pick={(p) => p.torque_nm}
        spots={spots}
        value={(spot) => spot.torque}
        at={at}
        onAt={setAt}
      />
      <figcaption className="text-small text-ink-2">
        {chosen ? (
          <>
            <Link className="link" to={`/jobs/${job}/setups?op=${chosen.id}`}>
              Setup <span className="n">{chosen.setup}</span>, operation{' '}
              <span className="n">{chosen.number}</span>
            </Link>{' '}
            {chosen.title}: <span className="n">{show(chosen.power, 'power', system)}</span> and{' '}
            <span className="n">{show(chosen.torque, 'torque', system)}</span> at{' '}
            <span className="n">{show(chosen.rpm, 'spindle_speed', system)}</span>
          </>
        ) : (
          <>
            Continuous as a line, short-time grey; at the {spindle.curves_at}.{' '}
            {ranges
              .map(
                (each) =>
                  `${each.name}: ${show(each.min_rpm, 'spindle_speed', system)} to ${show(each.max_rpm, 'spindle_speed', system)}`,
              )
              .join('; ')}
            .{spots.length > 0 && ' Each mark is an operation where the blank is at its largest.'}
          </>
        )}
      </figcaption>
    </figure>
  )
}

// What each operation of a job asks of a spindle of this machine; empty while it is not known.
function useSpots(number: string, machine: string, spindle: string): Spot[] {
  const { data } = useQuery({
    queryKey: ['spots', number],
    enabled: number !== '',
    refetchInterval: (asked) => (asked.state.data && !asked.state.data.evaluation ? 400 : false),
    queryFn: async () => {
      const job = await ask(api.GET('/api/jobs/{number}', { params: { path: { number } } }))
      return (await ask(
        api.GET('/api/plans/{id}', { params: { path: { id: job.plan } } }),
      )) as PlanAnswer
    },
  })
  const evaluation = number ? data?.evaluation : null
  if (!evaluation || !data) return []
  const figure = (id: string, name: string) =>
    (evaluation.figures[`${id}.worst_${name}`] ?? evaluation.figures[`${id}.${name}`])?.[0] as
      number | undefined
  return evaluation.setups.flatMap((setup) =>
    data.plan.setups?.find((each) => each.id === setup.id)?.machine !== machine
      ? []
      : setup.operations.flatMap((op) => {
          const [power, torque] = [figure(op.id, 'power'), figure(op.id, 'torque')]
          const limit = figure(op.id, 'power_limit') ?? Infinity
          return power === undefined ||
            torque === undefined ||
            op.rpm === null ||
            op.spindle !== spindle
            ? []
            : [
                {
                  id: op.id,
                  number: op.number,
                  setup: setup.number,
                  title: op.title,
                  rpm: op.rpm,
                  power,
                  torque,
                  over: power > limit || torque > (figure(op.id, 'torque_limit') ?? Infinity),
                },
              ]
        }),
  )
}
