import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { useHotkeys } from 'react-hotkeys-hook'
import { NavLink, useSearchParams } from 'react-router'
import { api, ask } from '../../api/client'
import { useRights, useSession } from '../../app/session'
import { useRested } from '../../ui/rested'
import { Empty, Failed, Loading } from '../../ui/States'
import { JobTable, type Sort, type Which } from './JobTable'
import { NewJob } from './NewJob'

const STATES: [Which, string][] = [
  ['', 'All'],
  ['yours', 'Yours to do'],
  ['stops', 'Will not work'],
  ['open', 'In work'],
  ['waits', 'Waits for approval'],
  ['released', 'Released'],
  ['changed', 'Changed since release'],
  ['empty', 'Not planned yet'],
  ['unreadable', 'Can’t be read'],
]
const SORTS: Sort[] = ['number', 'title', 'material', 'quantity', 'due', 'state', 'changed']
const REST_MS = 200

// All jobs by page, sorted by column, narrowed by state and by words; the address says what is shown.
export function Jobs() {
  const [at, go] = useSearchParams()
  const [adding, setAdding] = useState(false)
  const may = useRights().has('plan')
  const unset = useSession().data?.user?.unset ?? []
  const mayLibrary = useRights().has('library')
  const search = useRef<HTMLInputElement>(null)
  const set = (next: Record<string, string>) =>
    go(
      (now) => {
        const kept = Object.fromEntries(now)
        return Object.entries({ ...kept, page: '', ...next }).filter(
          ([, value]) => value !== '',
        ) as [string, string][]
      },
      { replace: true },
    )
  const [find, setFind] = useState(at.get('find') ?? '')
  useRested(find, REST_MS, (words) => words !== (at.get('find') ?? '') && set({ find: words }))
  const asked = {
    find: at.get('find') ?? '',
    state: oneOf(
      at.get('state'),
      STATES.map(([key]) => key),
      '',
    ),
    sort: oneOf(at.get('sort'), SORTS, 'number'),
    down: at.get('down') === '1',
    page: Math.max(0, Math.floor(Number(at.get('page')) || 0)),
  }
  const jobs = useQuery({
    queryKey: ['jobs', 'list', asked],
    meta: { shown: true },
    placeholderData: keepPreviousData,
    queryFn: () => ask(api.GET('/api/jobs', { params: { query: asked } })),
  })
  useHotkeys('slash', () => search.current?.focus(), { preventDefault: true })
  useHotkeys('n', () => may && setAdding(true), { preventDefault: true })
  if (jobs.error) return <Failed error={jobs.error} again={() => void jobs.refetch()} />
  if (!jobs.data) return <Loading what="the jobs" />
  const { all, jobs: rows } = jobs.data
  const size = 50
  const from = asked.page * size
  const narrowed = asked.find !== '' || asked.state !== ''
  return (
    <div className="mx-auto max-w-[1240px] px-6 py-4">
      {unset.length > 0 && mayLibrary && (
        <p role="status" className="mb-3 border border-brass bg-brass-wash px-3 py-1.5">
          The shop has no {unset.map((name) => name.replaceAll('_', ' ')).join(', ')} yet: its
          sheets lack them.{' '}
          <NavLink className="link font-semibold" to="/first-run">
            Give them now
          </NavLink>
        </p>
      )}
      <div className="mb-2 flex flex-wrap items-center gap-4">
        <h1 className="text-[20px] font-semibold">Jobs</h1>
        <input
          ref={search}
          aria-label="Find a job"
          className="field w-64"
          placeholder="Number, title or material  ( / )"
          value={find}
          onChange={(event) => setFind(event.target.value)}
        />
        <span className="text-ink-2" role="status">
          <span className="n">{all}</span> {all === 1 ? 'job' : 'jobs'}
          {narrowed ? ' found' : ''}
        </span>
        {may && !adding && (
          <button className="press ml-auto" onClick={() => setAdding(true)}>
            New job{' '}
            <span aria-hidden className="n ml-1">
              n
            </span>
          </button>
        )}
      </div>
      <div role="group" aria-label="Which jobs" className="mb-3 flex flex-wrap gap-x-1 gap-y-1">
        {STATES.map(([key, words]) => (
          <button
            key={key}
            aria-pressed={asked.state === key}
            className={`min-h-6 border px-2 ${asked.state === key ? 'border-ink bg-mark-wash font-semibold' : 'border-transparent text-ink-2 hover:border-hair-strong'}`}
            onClick={() => set({ state: key })}
          >
            {words}
          </button>
        ))}
      </div>
      {adding && <NewJob close={() => setAdding(false)} />}
      {rows.length === 0 ? (
        narrowed ? (
          <Empty title="Nothing is found">
            No job {asked.find && <>is called “{asked.find}”</>}{' '}
            {asked.state && <>under “{STATES.find(([key]) => key === asked.state)?.[1]}”</>}.{' '}
            <button className="link" onClick={() => (setFind(''), set({ find: '', state: '' }))}>
              Show all
            </button>
          </Empty>
        ) : (
          <Empty title="No jobs yet">
            A job is one part on one drawing revision. Make the first with “New job”.
          </Empty>
        )
      ) : (
        <JobTable
          jobs={rows}
          sort={asked.sort}
          down={asked.down}
          onSort={(sort, down) =>
            set({ sort: sort === 'number' && !down ? '' : sort, down: down ? '1' : '' })
          }
        />
      )}
      {all > size && (
        <nav aria-label="Pages" className="mt-3 flex items-center gap-4">
          <button
            className="press-2"
            disabled={asked.page === 0}
            onClick={() => set({ page: asked.page > 1 ? String(asked.page - 1) : '' })}
          >
            Earlier
          </button>
          <span className="n">
            {from + 1} – {Math.min(from + size, all)}
          </span>{' '}
          of <span className="n">{all}</span>
          <button
            className="press-2"
            disabled={from + size >= all}
            onClick={() => set({ page: String(asked.page + 1) })}
          >
            Later
          </button>
        </nav>
      )}
    </div>
  )
}

// What an address asks for, or what is usual where it asks for something else.
function oneOf<T extends string>(asked: string | null, known: readonly T[], usual: T): T {
  return known.find((each) => each === asked) ?? usual
}
