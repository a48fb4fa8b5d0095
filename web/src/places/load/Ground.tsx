import { grounds } from './grounds'
import type { Load } from './useLoad'

// The table, or a tombstone's faces beside each other, with how far the axes go.
export function Grounds({
  load,
  half,
  unit,
}: {
  load: Load
  half: [number, number]
  unit: number
}) {
  const [reachX, reachY] = load.travel as [number, number]
  const level = load.tombstone?.level_mm ?? 0
  return (
    <>
      {grounds(load).map((each) => (
        <g key={each.face}>
          <rect
            x={each.x - each.wide / 2}
            y={-each.deep / 2}
            width={each.wide}
            height={each.deep}
            className="fill-paper stroke-ink-2"
            vectorEffect="non-scaling-stroke"
          />
          <text
            transform={`translate(${each.x - each.wide / 2} ${each.deep / 2 + 12 + 7 * unit}) scale(1 -1)`}
            className="fill-ink-2"
            style={{ fontSize: 11.5 * unit }}
          >
            {each.words}
          </text>
          <path
            d={`M${each.x - 14} 0H${each.x + 14}M${each.x} -14V14`}
            className="stroke-quiet"
            vectorEffect="non-scaling-stroke"
          />
        </g>
      ))}
      {load.plate && (
        <g>
          <rect
            x={-load.plate.x_mm / 2}
            y={-load.plate.y_mm / 2}
            width={load.plate.x_mm}
            height={load.plate.y_mm}
            className="fill-surface stroke-ink-3"
            vectorEffect="non-scaling-stroke"
          />
          <text
            transform={`translate(${5 * unit - load.plate.x_mm / 2} ${load.plate.y_mm / 2 - 14 * unit}) scale(1 -1)`}
            className="fill-ink-2"
            style={{ fontSize: 11.5 * unit }}
          >
            {load.plate.name}
          </text>
        </g>
      )}
      {load.tombstone ? (
        <path
          d={[reachY, -reachY].map((y) => `M${-half[0]} ${y - level}H${half[0]}`).join('')}
          className="fill-none stroke-mark"
          strokeDasharray="6 4"
          vectorEffect="non-scaling-stroke"
        />
      ) : (
        <rect
          x={-reachX}
          y={-reachY}
          width={2 * reachX}
          height={2 * reachY}
          className="fill-none stroke-mark"
          strokeDasharray="6 4"
          vectorEffect="non-scaling-stroke"
        />
      )}
    </>
  )
}
