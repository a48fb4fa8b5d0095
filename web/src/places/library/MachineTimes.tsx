import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { api, ask } from '../../api/client'
import { useRights } from '../../app/session'
import { NumberField } from '../../ui/NumberField'
import { Failed, Loading } from '../../ui/States'
import { FittedValues } from './FittedValues'
import { ToldByAWatch } from './ToldByAWatch'
import { type Fit, keepTyped, LEAST_RUNS, timesOf, type Timing, typedOf } from './timing'

// A machine timed at the machine: runs by the watch on the left, the values that fit them on the right.
export function MachineTimes({ machine }: { machine: string }) {
  const { data, error, refetch } = useQuery({
    queryKey: ['library', 'timing', machine],
    queryFn: () =>
      ask(
        api.GET('/api/library/machines/{key}/timing', { params: { path: { key: machine } } }),
      ) as Promise<Timing>,
  })
  if (error) return <Failed error={error} again={() => void refetch()} />
  if (!data) return <Loading what="its runs" />
  return <Timed key={data.revision} machine={machine} timing={data} />
}

function Timed({ machine, timing }: { machine: string; timing: Timing }) {
  const cache = useQueryClient()
  const navigate = useNavigate()
  const may = useRights().has('library')
  const before = Object.fromEntries(timing.runs.map((run) => [run.id, run.seconds ?? null]))
  const [typed, setTyped] = useState<Record<string, number | null>>({
    ...before,
    ...typedOf(machine),
  })
  const times = timesOf(typed)
  const fit = useQuery({
    queryKey: ['library', 'timing', machine, timing.revision, times],
    enabled: times.length >= LEAST_RUNS,
    placeholderData: keepPreviousData,
    retry: false,
    queryFn: () =>
      ask(
        api.POST('/api/library/machines/{key}/timing/fit', {
          params: { path: { key: machine } },
          body: { times },
        }),
      ) as Promise<Fit>,
  })
  const take = useMutation({
    mutationFn: ({ names, source }: { names: string[]; source: string }) =>
      ask(
        api.POST('/api/library/machines/{key}/timing/take', {
          params: { path: { key: machine } },
          body: { times, names, source, revision: timing.revision },
        }),
      ),
    onSuccess: () => {
      keepTyped(machine, null)
      void cache.invalidateQueries({ queryKey: ['library'] })
      void cache.invalidateQueries({ queryKey: ['plan'] })
      void navigate(`/library/machines/${machine}`)
    },
  })
  const set = (run: string, seconds: number | null) => {
    const next = { ...typed, [run]: seconds }
    setTyped(next)
    keepTyped(machine, next)
  }
  const known = times.length >= LEAST_RUNS ? fit.data : undefined
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_480px]">
      <section aria-label="Runs" className="px-6 py-4">
        <Head name={timing.name} machine={machine} turnsWork={timing.turns_work} />
        <table className="w-full border-t border-ink">
          <thead className="text-small text-ink-2">
            <tr className="[&>th]:border-b [&>th]:border-hair-strong [&>th]:py-1.5 [&>th]:pr-3">
              <th className="w-6">No</th>
              <th>Run</th>
              <th className="text-right">Times</th>
              <th className="text-right">Expected s</th>
              <th className="text-right">By the watch s</th>
              <th className="text-right">Off s</th>
            </tr>
          </thead>
          <tbody>
            {timing.runs.map((run, k) => (
              <tr
                key={run.id}
                className="[&>td]:border-b [&>td]:border-hair [&>td]:py-1 [&>td]:pr-3"
              >
                <td className="n">{k + 1}</td>
                <td>{run.what}</td>
                <td className="n text-right">{run.repeats}</td>
                <td className="n text-right text-ink-2">{run.expected_s.toFixed(1)}</td>
                <td className="text-right">
                  <NumberField
                    label={`Run ${k + 1} by the watch`}
                    labelled={false}
                    bare
                    value={typed[run.id] ?? null}
                    quantity="number"
                    empty="–"
                    disabled={!may}
                    onCommit={(seconds) => set(run.id, seconds)}
                  />
                </td>
                <td className="n text-right">
                  {known && run.id in known.off ? signed(known.off[run.id]!) : ''}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      <aside className="border-l border-hair-strong bg-paper px-5 py-4">
        {fit.error && times.length >= LEAST_RUNS ? (
          <p role="alert" className="border-l-2 border-red pl-2 text-red-edge">
            {fit.error.message}
          </p>
        ) : known ? (
          <FittedValues
            fit={known}
            runs={times.length}
            may={may}
            busy={take.isPending}
            problem={take.error?.message ?? ''}
            onTake={(names, source) => take.mutate({ names, source })}
          />
        ) : (
          <>
            <p className="mb-3 text-ink-2">
              {fit.isFetching
                ? 'Looking for the values that fit …'
                : `From ${LEAST_RUNS} runs on the values that fit are shown here; all of them tell all of the values apart.`}
            </p>
            <ToldByAWatch values={timing.values} />
          </>
        )}
      </aside>
    </div>
  )
}

function Head({ name, machine, turnsWork }: { name: string; machine: string; turnsWork: boolean }) {
  const program = `/api/library/machines/${machine}/timing.nc`
  return (
    <>
      <div className="mb-2 flex items-baseline gap-4">
        <h1 className="text-[20px] font-semibold">How fast {name} moves</h1>
        <Link className="link" to={`/library/machines/${machine}`}>
          Its record
        </Link>
        {turnsWork ? (
          <span>
            The program that runs them{' '}
            <a className="link" href={`${program}?ways=g91`}>
              with G91
            </a>
            {' or '}
            <a className="link" href={`${program}?ways=uvw`}>
              with U, V, W
            </a>
          </span>
        ) : (
          <a className="link" href={program}>
            The program that runs them
          </a>
        )}
      </div>
      <p className="mb-3 max-w-[78ch] text-ink-2">
        {turnsWork
          ? 'Nothing in the chuck, no bar, the spindle stopped, the turret well away from all that stands there'
          : 'Nothing on the table'}
        , all overrides at 100 %, a hand at the stop the first time; the maker’s manual and the
        shop’s rules come first. Start the watch with the cycle, stop it with the last move, write
        down seconds.
        {turnsWork &&
          ' Take the program in the words that this control has for a way from where it is; one that has the other should refuse the first of them, so step through the first moves block by block. X counts diameters in it. Its turret, its spindle as an axis and its bar go by their own words; what the spindle takes to its speed is typed into the record: nobody starts it for this with an empty chuck.'}
      </p>
    </>
  )
}

const signed = (seconds: number) =>
  `${seconds < -0.05 ? '−' : seconds >= 0.05 ? '+' : ''}${Math.abs(seconds).toFixed(1)}`
