import { useMemo } from 'react'
import { useUnits } from '../../app/units'
import { Choice } from '../../ui/Choice'
import { clock } from '../../ui/format'
import { Empty, Failed, Loading } from '../../ui/States'
import { useFrame } from '../frame'
import { PanelHead } from '../setups/PanelHead'
import { FoundOffsets } from './Found'
import { FromAbove } from './FromAbove'
import { HowMany } from './HowMany'
import { OffsetTable } from './OffsetTable'
import { StationLoad } from './StationLoad'
import { TableDrawing } from './TableDrawing'
import { type Load, useLoad } from './useLoad'
import { carried } from './where'

// A setup's parts on the table, in the stage's place.
export function LoadPanel({ setup }: { setup: string }) {
  const { answer, evaluation } = useFrame()
  const { data, error, refetch, isPending } = useLoad(answer, setup)
  const whole = evaluation?.setups.find((each) => each.id === setup)
  return (
    <div className="grid h-full grid-rows-[34px_1fr]">
      <PanelHead
        title={
          <>
            Setup <span className="n">{whole?.number}</span>{' '}
            {data?.tombstone ? 'on the tombstone' : 'on the table'}
          </>
        }
      />
      {isPending ? (
        <Loading what="the load" />
      ) : error ? (
        <Failed error={error} again={() => void refetch()} />
      ) : data ? (
        <Loaded load={data} setup={setup} />
      ) : (
        <Empty title="Not on a table">
          This setup’s parts stand before a spindle, or its machine is not in the library.
        </Empty>
      )}
    </div>
  )
}

function Loaded({ load, setup }: { load: Load; setup: string }) {
  const { answer, evaluation, session } = useFrame()
  const { system } = useUnits()
  const planned = answer.plan.setups?.find((each) => each.id === setup)
  const whole = evaluation?.setups.find((each) => each.id === setup)
  const several = load.stations.length > 1
  const marked = useMemo(
    () => wrongAt(evaluation?.findings ?? [], load, setup),
    [evaluation, load, setup],
  )
  if (!planned || !whole) return null
  const station = (id: string) => planned.stations.find((each) => each.id === id)
  const names = Object.fromEntries(
    several ? load.stations.map((each, k) => [each.id, `Station ${k + 1}, `]) : [],
  )
  const free = new Set(
    planned.stations.filter((each) => each.at?.kind === 'spots').map((each) => each.id),
  )
  const [byTool, byPart] = [load.by_tool_s, load.by_part_s]
  const parts = load.stations.reduce((sum, each) => sum + each.spots.length, 0)
  return (
    <div className="grid min-h-0 grid-rows-[1fr_auto]">
      <div className="min-h-0 px-2 py-2">
        <TableDrawing
          key={system}
          load={load}
          marked={marked}
          names={names}
          free={free}
          onCarry={(id, position, by) =>
            session.send((plan) => {
              const now = plan.setups
                ?.flatMap((each) => each.stations)
                .find((each) => each.id === id)
              return [
                {
                  do: 'change',
                  on: `station:${id}`,
                  fields: { at: carried(now?.at, position, by) },
                },
              ]
            })
          }
        />
      </div>
      <div className="max-h-[300px] overflow-y-auto border-t border-hair-strong">
        <FromAbove load={load} />
        {load.stations.map((each, k) => {
          const plan = station(each.id)
          return (
            plan && (
              <StationLoad
                key={each.id}
                planned={plan}
                seen={each}
                carries={load.carries}
                title={
                  several
                    ? `${k + 1}  ${whole.stations[k]?.up ?? ''}`
                    : (load.tombstone?.name ?? 'On the table')
                }
              />
            )
          )
        })}
        {parts > 1 && (
          <div className="flex items-center gap-4 border-t border-hair px-4 py-1.5">
            <Choice
              label="Order"
              value={planned.order ?? 'by tool'}
              options={[
                { value: 'by tool', label: 'tool by tool' },
                { value: 'by part', label: 'part by part' },
              ]}
              onChange={(order) =>
                session.send([{ do: 'change', on: `setup:${setup}`, fields: { order } }])
              }
            />
            {byTool !== null && byPart !== null && (
              <span className="text-small text-ink-2">
                a load takes <b className="n">{clock(byTool)}</b> tool by tool,{' '}
                <b className="n">{clock(byPart)}</b> part by part
              </span>
            )}
          </div>
        )}
        <HowMany setup={setup} />
        <div className="border-t border-hair">
          <OffsetTable
            load={load}
            numbers={several}
            href={`/api/plans/${answer.id}/setups/${setup}/offsets`}
          />
          <FoundOffsets setup={setup} />
        </div>
      </div>
    </div>
  )
}

type Told = { id: string; setup: string; station: string; operation: string; kept: string } & {
  values: Record<string, { value: number | string }>
}

// Positions that a finding about places in the machine names, or all of its station where it names none.
function wrongAt(findings: Told[], load: Load, setup: string): Set<string> {
  const found = new Set(
    load.stations.flatMap((each) =>
      each.spots.flatMap((spot, k) => (spot.out_mm > 0 ? [`${each.id}:${k}`] : [])),
    ),
  )
  for (const each of findings) {
    if (each.setup !== setup || each.id !== 'travel.neighbour' || each.kept) continue
    const [here, other] = [each.values.here, each.values.other].map((at) => Number(at?.value))
    const number = Number(each.values.station?.value)
    const there = load.stations[Number.isFinite(number) ? number - 1 : 0]
    const mine = load.stations.find((station) => station.id === each.station) ?? load.stations[0]
    if (there) found.add(`${there.id}:${other! - 1}`)
    if (mine && here) found.add(`${mine.id}:${here - 1}`)
  }
  return found
}
