import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { api, ask, type PlanAnswer } from '../../api/client'
import { useUnits } from '../../app/units'
import { show } from '../../ui/format'

type Data = Record<string, unknown>
type Point = { rpm: number; power_kw: number; torque_nm: number }
type Range = {
  name: string
  min_rpm: number
  max_rpm: number
  continuous: Point[]
  short_time: Point[]
}
type Spot = {
  id: string
  number: number
  setup: number
  title: string
  rpm: number
  power: number
  torque: number
  over: boolean
}
const [LEFT, RIGHT, WIDE, HIGH] = [74, 362, 288, 150]

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
  const spots = useSpots(job, machine)
  const ranges = data.ranges as Range[]
  const speed = Math.max(...ranges.map((each) => each.max_rpm))
  const chosen = spots.find((spot) => spot.id === at)
  return (
    <figure>
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
            Continuous as a line, short-time grey; at the {String(data.curves_at)}.{' '}
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

type ChartProps = {
  title: string
  quantity: string
  ranges: Range[]
  speed: number
  pick: (p: Point) => number
  spots: Spot[]
  value: (spot: Spot) => number
  at: string | null
  onAt: (id: string | null) => void
}

function Chart({ title, quantity, ranges, speed, pick, spots, value, at, onAt }: ChartProps) {
  const { system } = useUnits()
  const given = Math.max(
    ...ranges.flatMap((each) => [...each.continuous, ...each.short_time].map(pick)),
  )
  const most = Math.max(given, ...spots.map(value)) * 1.1
  const x = (rpm: number) => LEFT + (rpm / speed) * WIDE
  const y = (v: number) => HIGH + 14 - (v / most) * HIGH
  const line = (points: Point[]) =>
    points.map((p, k) => `${k ? 'L' : 'M'}${x(p.rpm).toFixed(1)} ${y(pick(p)).toFixed(1)}`).join('')
  return (
    <svg viewBox="0 0 400 192" className="w-full" role="group" aria-label={`${title} over speed`}>
      <path d={`M${LEFT} 8V${HIGH + 14}H${RIGHT}`} className="fill-none stroke-ink-3" />
      {ranges.map((each) => (
        <g key={each.name} className="fill-none">
          {each.short_time.length > 1 && (
            <path d={line(each.short_time)} className="stroke-quiet" strokeWidth="1.2" />
          )}
          <path d={line(each.continuous)} className="stroke-mark" strokeWidth="2" />
        </g>
      ))}
      <text x={LEFT - 6} y={y(given) + 4} textAnchor="end" className="n text-[11px]">
        {show(given, quantity, system)}
      </text>
      <text x={LEFT + 6} y={14} className="fill-ink-2 text-[11.5px]">
        {title}
      </text>
      <text x={RIGHT} y={HIGH + 28} textAnchor="end" className="n text-[11px]">
        {show(speed, 'spindle_speed', system)}
      </text>
      {spots.map((spot) => (
        <g
          key={spot.id}
          role="button"
          tabIndex={0}
          aria-label={`operation ${spot.number}`}
          className="cursor-pointer"
          onClick={() => onAt(at === spot.id ? null : spot.id)}
          onKeyDown={(event) => event.key === 'Enter' && onAt(spot.id)}
        >
          {spot.over ? (
            <rect
              x={x(spot.rpm) - 4}
              y={y(value(spot)) - 4}
              width="8"
              height="8"
              className="fill-red"
            />
          ) : (
            <circle
              cx={x(spot.rpm)}
              cy={y(value(spot))}
              r={at === spot.id ? 5 : 3.2}
              className={at === spot.id ? 'fill-brass' : 'fill-ink'}
            />
          )}
          {at === spot.id && (
            <text
              x={x(spot.rpm) + 8}
              y={y(value(spot)) - 5}
              className="n text-[11px] font-semibold"
            >
              {spot.number}
            </text>
          )}
        </g>
      ))}
    </svg>
  )
}

// What each operation of a job asks on this machine; empty while it is not known.
function useSpots(number: string, machine: string): Spot[] {
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
          return power === undefined || torque === undefined || op.rpm === null
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
