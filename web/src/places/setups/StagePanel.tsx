import { useMemo, useState } from 'react'
import { useHotkeys } from 'react-hotkeys-hook'
import { useLibrary } from '../../api/hooks'
import { useUnits } from '../../app/units'
import Stage from '../../stage/Stage'
import type { Label, StageProps, ViewName } from '../../stage/types'
import { show } from '../../ui/format'
import { turns } from '../../ui/turnShape'
import { useFrame } from '../frame'
import { useAlong, useSpot } from './along'
import { PanelHead } from './PanelHead'
import { extents, lay, sectionsOf, tallestTool, turnedTo, turret } from './stageTools'
import { ReadPoint } from './ReadPoint'
import { SetAt } from './Raised'
import { Saved } from './Saved'
import { StageFacts } from './StageFacts'
import { Corners } from './stageMarks'
import { usePicks } from './usePicks'
import { reading } from './useRead'
import { around, bodiesOf, carrierOf, copiesOf, numbersOf, standing as thereNow } from './wholeLoad'
import { standingLabels, standingShown } from '../standing'

const LEVEL_MM = 0.05

export function StagePanel({ setup, operation }: { setup: string; operation: string | null }) {
  const { answer, evaluation } = useFrame()
  const { data: library } = useLibrary()
  const { system } = useUnits()
  const [view, setView] = useState<ViewName>('iso')
  const [turned, setTurned] = useState(0)
  const [chosen, setChosen] = useState<boolean | null>(null)
  useHotkeys('t', () => setTurned((now) => (now + 1) % 4))
  const whole = evaluation?.setups.find((each) => each.id === setup)
  const planned = answer.plan.setups?.find((each) => each.id === setup)
  const op = whole?.operations.find((each) => each.id === operation)
  const seen = whole?.stations.find((each) => each.id === op?.station) ?? whole?.stations[0]
  const station = planned?.stations.find((each) => each.id === seen?.id)
  const item = (kind: string, key: string | undefined) =>
    library?.items.find((each) => each.kind === kind && each.key === key)?.data as
      Record<string, unknown> | undefined

  const laid = whole?.turns ?? false
  const { pointing, points, near, point, setPicks, pick, marks } = usePicks(seen)
  const known = op && (op.found_depth_mm !== null || op.found_width_mm !== null) && !op.tool_axis
  const { data: along } = useAlong(answer, known ? op.id : null)
  const spot = useSpot(operation)
  const standing = standingShown.use()
  const way = useMemo(() => {
    if (!along) return undefined
    const limit = op?.gauges.find((each) => each.id === 'power')?.limit
    const most = limit || Math.max(0.001, ...along.power_kw)
    // one level of it: that of the place looked at, else the lowest; a turned one lies in a plane
    const heights = along.at.map((each) => (laid ? 0 : (each[2] ?? 0)))
    const level = spot === null ? Math.min(...heights) : (heights[spot] ?? 0)
    const shown = heights.flatMap((z, k) => (Math.abs(z - level) < LEVEL_MM ? [k] : []))
    return {
      at: shown.map((k) => along.at[k]!),
      load: shown.map((k) => along.power_kw[k]! / most),
    }
  }, [along, op, spot, laid])
  const carried = useMemo(() => {
    const planTool = answer.plan.tools?.find(
      (each) => each.id === planned?.operations?.find((each) => each.id === operation)?.tool,
    )
    const assembly = item('assemblies', planTool?.assembly)
    const [cutter, holder] = [
      item('tools', assembly?.tool as string),
      item('holders', assembly?.holder as string),
    ]
    if (!planTool || !op?.tool_at || !cutter || !holder) return null
    const at = (spot === null ? null : along?.at[spot]) ?? op.tool_at
    return { at, axis: op.tool_axis, cutter, holder, stickOut: planTool.stick_out_mm }
  }, [answer.plan, planned, operation, op?.tool_at, op?.tool_axis, library, along, spot]) // eslint-disable-line react-hooks/exhaustive-deps
  const tool = useMemo<StageProps['tool']>(
    () =>
      carried && !turns(carried.cutter)
        ? {
            at: carried.at,
            axis: carried.axis,
            sections: sectionsOf(carried.cutter, carried.holder, carried.stickOut),
          }
        : null,
    [carried],
  )

  const several = seen !== undefined && seen.stands.length > 0
  const all = several && (chosen ?? !operation) // one part where an operation is looked at
  const key = op ? op.stock_key : seen?.stock_key
  // before anything is cut, the clamps of the first operation
  const on = (op ?? whole?.operations.find((each) => each.station === seen?.id))?.clamps
  const drawn = useMemo(() => {
    if (!seen) return null
    const held = bodiesOf(seen, on)
    const prisms = [...held, ...(laid && carried && turns(carried.cutter) ? turret(carried) : [])]
    const copies = all && whole ? copiesOf(answer.id, whole, seen, operation) : []
    const carrier = all ? carrierOf(seen) : []
    const box = around(extents(seen, prisms, tool, laid), copies)
    return { prisms: [...prisms, ...carrier], copies, ...box }
  }, [answer.id, whole, operation, on, seen, tool, carried, laid, all])

  const labels = useMemo<Label[]>(() => {
    if (!seen || !station) return []
    const found: Label[] = [
      { at: [0, 0, 0], words: 'zero', tone: 'mark', dx: -8.5, dy: -8.5 },
      { at: [26, 0, 0], words: 'X', tone: 'zero', dx: 3, dy: -8 },
      { at: [0, 26, 0], words: 'Y', tone: 'zero', dx: 3, dy: -8 },
      { at: [0, 0, 26], words: `${station.work_offset} Z`, tone: 'zero', dx: -8, dy: -18 },
    ]
    if (laid) found.splice(2, 1)
    const labelled = !laid && !all && (view === 'iso' || view === 'above')
    for (const body of labelled ? thereNow(seen, on) : []) {
      if (!body.name || body.role === 'pallet') continue
      const [x, y] = [0, 1].map((k) => body.corners.map((spot) => spot[k]!))
      const [left, right] = [Math.min(...x!), Math.max(...x!)]
      found.push({
        at: turnedTo(
          [left + 0.8 * (right - left), (Math.min(...y!) + Math.max(...y!)) / 2, body.top],
          body.turn,
        ),
        words: body.name,
        dx: -20,
        dy: 4,
      })
    }
    const stop = evaluation?.findings.find(
      (f) => f.operation === operation && f.severity === 'stop',
    )
    if (stop && op?.tool_at) {
      const [x, y, z, d] = ['x', 'y', 'z', 'd'].map((name) => stop.values[name]?.value)
      const gouge = stop.id === 'reach.gouges' && typeof z === 'number'
      const across = typeof d === 'number' ? [d / 2, 0] : [Number(x), Number(y)]
      const by = stop.values.short ?? stop.values.deep ?? stop.values.over
      found.push({
        at: gouge ? [...across, z] : op.tool_at,
        words:
          typeof by?.value === 'number'
            ? `■ ${show(by.value, by.quantity, system)} ${stop.values.short ? 'short' : 'too deep'}`
            : '■ will not work',
        tone: 'stop',
        dx: 16,
        dy: -10,
      })
    }
    if (standing && evaluation) found.push(...standingLabels(evaluation.left, system, seen.pose))
    if (all && whole) found.push(...numbersOf(whole, seen))
    found.push(...marks)
    return laid ? found.map((label) => ({ ...label, at: lay(label.at) })) : found
  }, [
    seen,
    station,
    evaluation,
    operation,
    op,
    on,
    system,
    view,
    laid,
    standing,
    marks,
    whole,
    all,
  ])

  if (!whole || !seen || !planned || !station || !drawn) return null
  const tallest = evaluation ? tallestTool(planned, answer.plan, item) : null
  return (
    <div className="grid h-full grid-rows-[34px_1fr_auto]">
      <PanelHead
        title={
          <>
            Setup <span className="n">{whole.number}</span>{' '}
            {op ? (
              <>
                after operation <span className="n">{op.number}</span>
              </>
            ) : (
              'as loaded'
            )}
          </>
        }
        view={view}
        onView={setView}
        table={!laid}
      />
      <div className="relative min-h-0">
        <Corners />
        <button
          className={`absolute bottom-2 left-6 z-10 text-small ${pointing ? 'border-b-2 border-ink font-semibold' : 'link'}`}
          aria-pressed={pointing}
          onClick={() => reading.set(!pointing)}
        >
          Read a point
        </button>
        {several && (
          <button
            className={`absolute right-6 bottom-2 z-10 text-small ${all ? 'border-b-2 border-ink font-semibold' : 'link'}`}
            aria-pressed={all}
            onClick={() => setChosen(!all)}
          >
            All{' '}
            <span className="n">{whole.stations.reduce((n, each) => n + each.positions, 0)}</span>{' '}
            parts
          </button>
        )}
        <Stage
          mesh={key ? `/api/plans/${answer.id}/stock/${key}.glb` : null}
          prisms={drawn.prisms}
          copies={drawn.copies}
          laid={laid}
          tool={tool}
          zero
          view={view}
          turned={turned}
          low={drawn.low}
          high={drawn.high}
          labels={labels}
          way={way}
          onPick={pointing ? pick : undefined}
        />
      </div>
      {pointing ? (
        <ReadPoint
          station={seen.id}
          points={points}
          near={near}
          onPoint={point}
          onClear={() => setPicks([])}
        />
      ) : (
        <div>
          <StageFacts seen={seen} station={station} laid={laid} tallest={tallest} />
          {evaluation && <Saved whole={whole} seen={seen} evaluation={evaluation} />}
          {evaluation && <SetAt whole={whole} station={seen.id} evaluation={evaluation} />}
        </div>
      )}
    </div>
  )
}
