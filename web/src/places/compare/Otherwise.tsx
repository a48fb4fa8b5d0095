import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, ask, type Edit } from '../../api/client'
import { useVariants } from '../../api/hooks'
import type { components } from '../../api/schema'
import { useWorked } from '../../api/worked'
import { useRights } from '../../app/session'
import { Sentence } from '../../ui/Figure'
import { clock, fill } from '../../ui/format'
import { Going } from '../../ui/Going'
import { useFrame } from '../frame'
import { freeName } from '../jobs/freeName'

type Way = components['schemas']['OtherWayOut']
type Figures = components['schemas']['WayFiguresOut']

// One machine or two, indexed or in several setups: what this plan would be the other way, worked out on request.
export function Otherwise({ onBeside }: { onBeside: (plan: number) => void }) {
  const { answer, evaluation } = useFrame()
  const may = useRights().has('plan')
  const path = { params: { path: { id: answer.id } } }
  const worked = useWorked(
    ['other ways', answer.id, answer.revision],
    () => ask(api.GET('/api/plans/{id}/other-ways', path)),
    () => ask(api.POST('/api/plans/{id}/other-ways', path)),
  )
  const { data, task, going } = worked
  if (!evaluation?.setups.some((each) => each.operations.length > 0)) return null
  return (
    <section aria-label="The other way" className="mt-6 border-t border-ink pt-2">
      <h2 className="font-semibold">The other way</h2>
      <p className="max-w-[640px] text-small text-ink-2">
        One machine or two, indexed or in several setups: shops do not agree. Each is worked out as
        a plan of its own, with this plan’s tools and cuts; costs as far as they are known, bold
        what is less than this plan’s.
      </p>
      {data?.now && data.rows.length > 0 && (
        <Ways now={data.now} rows={data.rows} may={may} onBeside={onBeside} />
      )}
      {task?.state === 'done' && data?.rows.length === 0 && (
        <p className="mt-2">No other machine and no other way of turning the part fits it here.</p>
      )}
      {worked.problem && (
        <p role="alert" className="mt-2 text-red-edge">
          {worked.problem}
        </p>
      )}
      {task?.state === 'cancelled' && (
        <p className="mt-2 text-small text-ink-2">
          Stopped: what was found until then stands here.
        </p>
      )}
      {going ? (
        <Going task={going} onStop={worked.stop} />
      ) : (
        may &&
        worked.known &&
        task?.state !== 'done' && (
          <button className="press-2 mt-2" onClick={worked.begin}>
            Work them out
          </button>
        )
      )}
    </section>
  )
}

function Ways({
  now,
  rows,
  may,
  onBeside,
}: {
  now: Figures
  rows: Way[]
  may: boolean
  onBeside: (plan: number) => void
}) {
  return (
    <table className="mt-2 w-full">
      <thead>
        <tr className="text-left text-small text-ink-2">
          <th className="font-normal" />
          {['setups', 'one part', 'the batch', 'all at once', 'costs'].map((each) => (
            <th key={each} className="pl-4 text-right font-normal whitespace-nowrap">
              {each}
            </th>
          ))}
          <th />
        </tr>
      </thead>
      <tbody>
        <tr className="border-t border-hair">
          <th className="py-1 text-left font-semibold">This plan</th>
          <Numbers of={now} />
          <td />
        </tr>
        {rows.map((row, k) => (
          <Row key={k} row={row} now={now} may={may} onBeside={onBeside} />
        ))}
      </tbody>
    </table>
  )
}

function Row({
  row,
  now,
  may,
  onBeside,
}: {
  row: Way
  now: Figures
  may: boolean
  onBeside: (plan: number) => void
}) {
  return (
    <tr className="border-t border-hair align-top">
      <th className="py-1 pr-2 text-left font-normal" colSpan={row.why ? 7 : 1}>
        <Sentence text={row.said.text} values={row.said.values} />
        {row.why ? (
          <span className="block text-small text-ink-2">
            Not so: <Sentence text={row.why.text} values={row.why.values} />
          </span>
        ) : (
          row.looks.length > 0 && (
            <details className="text-small text-ink-2">
              <summary className="cursor-pointer">
                <span className="n">{row.looks.length}</span> more to look at
              </summary>
              <ul className="pl-4">
                {row.looks.map((look, k) => (
                  <li key={k}>
                    <Sentence text={look.text} values={look.values} />
                  </li>
                ))}
              </ul>
            </details>
          )
        )}
      </th>
      {row.figures && !row.why && (
        <>
          <Numbers of={row.figures} now={now} />
          <td className="py-1 pl-4 text-right">
            {may && <Beside row={row} onBeside={onBeside} />}
          </td>
        </>
      )}
    </tr>
  )
}

function Numbers({ of, now }: { of: Figures; now?: Figures }) {
  const { at_once_s } = of
  return (
    <>
      <Cell said={`${of.setups}`} less={now && now.setups - of.setups} />
      <Cell said={clock(of.one_part_s)} less={now && now.one_part_s - of.one_part_s} />
      <Cell said={clock(of.batch_s)} less={now && now.batch_s - of.batch_s} />
      <Cell
        said={at_once_s === null ? '–' : clock(at_once_s)}
        less={now && at_once_s !== null ? (now.at_once_s ?? now.batch_s) - at_once_s : undefined}
      />
      <Cell said={of.known.toFixed(0)} less={now && now.known - of.known} />
    </>
  )
}

// In bold where it is less than this plan's.
function Cell({ said, less = 0 }: { said: string; less?: number }) {
  return (
    <td className={`n py-1 pl-4 text-right whitespace-nowrap ${less > 0 ? 'font-semibold' : ''}`}>
      {said}
    </td>
  )
}

function Beside({ row, onBeside }: { row: Way; onBeside: (plan: number) => void }) {
  const { job, answer } = useFrame()
  const cache = useQueryClient()
  const variants = useVariants(job.number)
  const [problem, setProblem] = useState('')
  const [making, setMaking] = useState(false)
  const make = async () => {
    const said = fill(row.said.text, row.said.values, 'metric')
    const name = freeName(said, variants.data?.map((each) => each.name) ?? [])
    setMaking(true)
    try {
      const made = await ask(
        api.POST('/api/plans/{id}/copies', {
          params: { path: { id: answer.id } },
          body: { name, machine: '', edits: row.edits as Edit[] },
        }),
      )
      await cache.invalidateQueries({ queryKey: ['jobs'] })
      onBeside(made.plan)
    } catch (failed) {
      setProblem((failed as Error).message)
    }
    setMaking(false)
  }
  return (
    <>
      <button className="press-2 whitespace-nowrap" disabled={making} onClick={() => void make()}>
        Put beside
      </button>
      {problem && (
        <span role="alert" className="block text-small text-red-edge">
          {problem}
        </span>
      )}
    </>
  )
}
