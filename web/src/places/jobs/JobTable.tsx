import { useRef, useState } from 'react'
import { useNavigate } from 'react-router'
import type { JobRow } from '../../api/client'
import type { operations } from '../../api/schema'
import { useLibrary } from '../../api/hooks'
import { Mark } from '../../ui/Mark'
import { jobAt } from './jobAt'

type Asked = Required<NonNullable<operations['shop_overview_api_list_jobs']['parameters']['query']>>
export type Sort = Asked['sort']
export type Which = Asked['state']
type Props = {
  jobs: JobRow[]
  sort: Sort
  down: boolean
  onSort: (sort: Sort, down: boolean) => void
}

const DAY_MS = 86_400_000
const COLUMNS: [Sort | null, string, string][] = [
  ['number', 'Number', 'w-28'],
  ['title', 'Part', ''],
  [null, 'Rev', 'w-12'],
  ['material', 'Material', 'w-40'],
  ['quantity', 'Quantity', 'w-20 text-right'],
  ['due', 'Due', 'w-40'],
  ['state', 'Stands', 'w-56'],
  ['changed', 'Last change', 'w-40'],
]

export function JobTable({ jobs, sort, down, onSort }: Props) {
  const navigate = useNavigate()
  const { data: library } = useLibrary()
  const body = useRef<HTMLTableSectionElement>(null)
  const material = (key: string) =>
    String(
      library?.items.find((item) => item.kind === 'materials' && item.key === key)?.data.name ??
        key,
    )
  const walk = (event: React.KeyboardEvent, place: number) => {
    const by = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0
    if (!by) return
    event.preventDefault()
    body.current?.querySelectorAll<HTMLAnchorElement>('a[data-row]')[place + by]?.focus()
  }
  return (
    <table className="w-full border-t border-ink">
      <thead className="text-small text-ink-2">
        <tr className="[&>th]:border-b [&>th]:border-hair-strong [&>th]:pr-4">
          {COLUMNS.map(([key, words, wide]) => (
            <th
              key={words}
              scope="col"
              className={wide}
              aria-sort={key === sort ? (down ? 'descending' : 'ascending') : undefined}
            >
              {key ? (
                <button
                  className={`min-h-6 hover:text-ink ${key === sort ? 'font-semibold text-ink' : ''}`}
                  onClick={() => onSort(key, key === sort && !down)}
                >
                  {words}
                  {key === sort && (
                    <span aria-hidden className="n">
                      {' '}
                      {down ? '↓' : '↑'}
                    </span>
                  )}
                </button>
              ) : (
                words
              )}
            </th>
          ))}
        </tr>
      </thead>
      <tbody ref={body}>
        {jobs.map((job, place) => {
          const to = `${jobAt(job.number)}/${job.has_part ? 'setups' : 'part'}`
          return (
            <tr
              key={job.id}
              className="cursor-pointer [&>td]:border-b [&>td]:border-hair [&>td]:py-1.5 [&>td]:pr-4 hover:bg-mark-wash focus-within:bg-mark-wash"
              onClick={() => void navigate(to)}
            >
              <td>
                <a
                  data-row
                  href={to}
                  className="n inline-block min-h-6 font-semibold leading-6"
                  onKeyDown={(event) => walk(event, place)}
                  onClick={(event) => (
                    event.preventDefault(),
                    event.stopPropagation(),
                    void navigate(to)
                  )}
                >
                  {job.number}
                </a>
              </td>
              <td className="text-lead">{job.title}</td>
              <td className="n">{job.revision}</td>
              <td>
                {job.material ? (
                  material(job.material)
                ) : (
                  <span className="text-ink-3">not chosen</span>
                )}
              </td>
              <td className="n text-right">{job.quantity}</td>
              <td>{job.due ? <Due date={job.due} /> : <span className="text-ink-3">–</span>}</td>
              <td>
                <Stands job={job} />
              </td>
              <td className="text-ink-2">
                draft <span className="n">{job.draft}</span> by {job.changed_by}
              </td>
            </tr>
          )
        })}
      </tbody>
    </table>
  )
}

// Where a job stands, and what of it is not as released.
function Stands({ job }: { job: JobRow }) {
  const count = (n: number, words: string) => (
    <>
      <span className="n">{n}</span> {words}
    </>
  )
  const words = {
    unreadable: (
      <>
        <Mark state="stop" size={11} label="can’t be read" /> can’t be read
      </>
    ),
    empty: <span className="text-ink-3">{job.has_part ? 'no setup yet' : 'no part yet'}</span>,
    stops: (
      <>
        <Mark state="stop" size={11} /> {count(job.stops, 'will not work')}
      </>
    ),
    open: job.problem ? (
      <>
        <Mark state="unknown" size={12} /> not worked out
      </>
    ) : job.looks > 0 || job.unknown > 0 ? (
      <>
        {job.looks > 0 && (
          <>
            <Mark state="look" size={12} /> {count(job.looks, 'to look at')}{' '}
          </>
        )}
        {job.unknown > 0 && (
          <>
            <Mark state="unknown" size={12} /> {count(job.unknown, 'open')}
          </>
        )}
      </>
    ) : job.answered ? (
      'in work'
    ) : (
      <>
        <Mark state="unknown" size={12} /> not worked out yet
      </>
    ),
    waits: (
      <>
        waits for approval
        {job.looks > 0 && (
          <>
            , <Mark state="look" size={12} /> {count(job.looks, 'to accept')}
          </>
        )}
      </>
    ),
    released: 'released',
  }[job.state]
  return (
    <span title={job.unread || job.problem || undefined}>
      <span className="inline-flex flex-wrap items-center gap-x-1">{words}</span>
      {job.released && job.state === 'released' && <span className="n"> {job.released}</span>}
      {job.changed && (
        <span className="block text-small text-ink-2">
          changed since release <span className="n">{job.released}</span>
        </span>
      )}
      {job.library_changed && (
        <span className="block text-small text-amber-edge">the library changed under it</span>
      )}
    </span>
  )
}

function Due({ date }: { date: string }) {
  const [now] = useState(() => Date.now())
  const days = Math.ceil((new Date(date).getTime() - now) / DAY_MS)
  return (
    <>
      <span className="n">{date}</span>{' '}
      <span className="text-small text-ink-2">
        {days < 0 ? <b className="text-red-edge">{-days} d late</b> : `in ${days} d`}
      </span>
    </>
  )
}
