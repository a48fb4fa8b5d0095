import { useUnits } from '../../app/units'
import { show } from '../../ui/format'
import { type Body, bounds, type Locator, type Seat } from './fixture'

const ROOM = 0.08 // of its longer side, round it
const rings = (each: { outline: [number, number][]; holes: [number, number][][] }) =>
  [each.outline, ...each.holes]
    .map((ring) => `M${ring.map(([x, y]) => `${x} ${y}`).join('L')}Z`)
    .join('')

type Props = {
  body: Body
  picked?: Set<string> // without it all of it is what a part is held by
  marked?: string
  locators?: Locator[] // that can be picked
  onPick?: (id: string) => void
  onMark?: (id: string) => void
}

// A fixture from above and from the front, to scale: the higher a piece stands, the lighter it is.
export function FixtureDrawing({ body, picked, marked, locators, onPick, onMark }: Props) {
  const { system } = useUnits()
  const { west, east, south, north, high } = bounds(body)
  const [wide, deep] = [east - west, north - south]
  const room = ROOM * Math.max(wide, deep)
  const unit = (wide + 2 * room) / 640
  const box = `${west - room} ${-north - room} ${wide + 2 * room} ${deep + high + 3.6 * room}`
  const front = -south + 1.5 * room + high // where its bottom lies in the view from the front
  const chosen = (id: string) => !picked || picked.has(id)
  const pick = (id: string, words: string) => ({
    role: onPick ? 'button' : undefined,
    'aria-pressed': onPick ? chosen(id) : undefined,
    'aria-label': words,
    className: onPick ? 'cursor-pointer' : undefined,
    onClick: () => onPick?.(id),
    onPointerEnter: () => onMark?.(id),
    onPointerLeave: () => onMark?.(''),
  })
  const ink = (id: string) =>
    marked === id ? 'var(--color-brass)' : chosen(id) ? 'var(--color-mark)' : 'var(--color-quiet)'
  const fill = (top: number) =>
    `color-mix(in srgb, var(--color-paper) ${Math.round((100 * top) / high)}%, var(--color-hair))`
  const seat = (each: Seat, k: number) => (
    <path
      key={each.id}
      {...pick(each.id, `Seat ${k + 1}, ${show(each.high_mm, 'length', system)} high`)}
      d={rings(each)}
      fillRule="evenodd"
      fill={chosen(each.id) ? 'var(--color-scribe-dim)' : 'transparent'}
      fillOpacity={0.7}
      stroke={ink(each.id)}
      strokeWidth={marked === each.id ? 2.4 * unit : unit}
    />
  )
  const stop = (each: Locator) => {
    const words = `Locator, ${show(each.low_mm, 'length', system)} to ${show(each.high_mm, 'length', system)} high`
    const heavy = (marked === each.id ? 6 : chosen(each.id) ? 4.5 : 3) * unit
    return (
      <g key={each.id} {...pick(each.id, words)} stroke={ink(each.id)} fill="none">
        {each.diameter_mm ? (
          <circle
            cx={each.at_mm[0]}
            cy={each.at_mm[1]}
            r={each.diameter_mm / 2}
            strokeWidth={heavy}
          />
        ) : (
          <path d={`M${each.at_mm.join(' ')}L${each.to_mm.join(' ')}`} strokeWidth={heavy} />
        )}
      </g>
    )
  }
  return (
    <svg viewBox={box} className="h-full w-full" role="group" aria-label="The fixture from above">
      <g transform="scale(1 -1)">
        {[...body.blocks]
          .sort((a, b) => a.high_mm - b.high_mm)
          .map((each, k) => (
            <path
              key={k}
              d={rings(each)}
              fillRule="evenodd"
              fill={fill(each.high_mm)}
              stroke="var(--color-ink-2)"
              strokeWidth={0.8 * unit}
            />
          ))}
        {[...body.seats].sort((a, b) => a.high_mm - b.high_mm).map(seat)}
        {(locators ?? body.locators).map(stop)}
        {body.threads.map((each) => (
          <g key={each.id} {...pick(each.id, `Thread of ${each.size_mm}`)} stroke={ink(each.id)}>
            <circle
              cx={each.at_mm[0]}
              cy={each.at_mm[1]}
              r={each.size_mm / 2}
              fill="var(--color-paper)"
              strokeWidth={unit}
            />
            <path
              d={`M${each.at_mm[0] - each.size_mm} ${each.at_mm[1]}h${2 * each.size_mm}M${each.at_mm[0]} ${each.at_mm[1] - each.size_mm}v${2 * each.size_mm}`}
              strokeWidth={0.6 * unit}
            />
          </g>
        ))}
      </g>
      <Numbers body={body} chosen={chosen} unit={unit} />
      <g fill="none" stroke="var(--color-ink)" strokeWidth={unit}>
        {body.blocks.map((each, k) => {
          const xs = each.outline.map(([x]) => x)
          const [from, to] = [Math.min(...xs), Math.max(...xs)]
          return (
            <rect
              key={k}
              x={from}
              y={front - each.high_mm}
              width={to - from}
              height={each.high_mm - each.low_mm}
              fill="var(--color-paper)"
            />
          )
        })}
        <path
          d={`M${west} ${front + 0.35 * room}H${east}M${west} ${front + 0.25 * room}v${0.2 * room}M${east} ${front + 0.25 * room}v${0.2 * room}`}
        />
      </g>
      <text
        x={(west + east) / 2}
        y={front + 0.35 * room + 16 * unit}
        textAnchor="middle"
        fontSize={13 * unit}
        className="n fill-ink"
      >
        {show(wide, 'length', system)} × {show(deep, 'length', system)} ×{' '}
        {show(high, 'length', system)}
      </text>
    </svg>
  )
}

// Seats and locators by their numbers, as the contacts of a part name them.
function Numbers({
  body,
  chosen,
  unit,
}: {
  body: Body
  chosen: (id: string) => boolean
  unit: number
}) {
  const middle = (spots: [number, number][]) =>
    [0, 1].map((k) => spots.reduce((sum, each) => sum + each[k]!, 0) / spots.length) as [
      number,
      number,
    ]
  const out = { '-x': [1, 0], '+x': [-1, 0], '-y': [0, 1], '+y': [0, -1] } as const
  const marks = [
    ...body.seats
      .filter((each) => chosen(each.id))
      .map((each, k) => ({ word: `S${k + 1}`, at: middle(each.outline), by: [0, 0] as const })),
    ...body.locators
      .filter((each) => chosen(each.id))
      .map((each, k) => ({
        word: `L${k + 1}`,
        at: middle([each.at_mm, each.to_mm]),
        by: out[each.side],
      })),
  ]
  return marks.map(({ word, at, by }) => (
    <text
      key={word}
      x={at[0] - by[0] * 15 * unit}
      y={-at[1] + by[1] * 13 * unit + 4 * unit}
      textAnchor="middle"
      fontSize={13 * unit}
      className="n pointer-events-none fill-mark font-semibold"
      paintOrder="stroke"
      stroke="var(--color-paper)"
      strokeWidth={3 * unit}
    >
      {word}
    </text>
  ))
}
