import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { useHotkeys } from 'react-hotkeys-hook'
import { useNavigate } from 'react-router'
import { api, ask, type Job, type Problem, Refused } from '../../api/client'
import { useJobs, useLibrary } from '../../api/hooks'
import { useRights } from '../../app/session'
import { Empty, Failed, Loading } from '../../ui/States'

const DAY_MS = 86_400_000

export function Jobs() {
  const jobs = useJobs()
  const { data: library } = useLibrary()
  const [find, setFind] = useState('')
  const [adding, setAdding] = useState(false)
  const may = useRights().has('plan')
  const search = useRef<HTMLInputElement>(null)
  useHotkeys('slash', () => search.current?.focus(), { preventDefault: true })
  useHotkeys('n', () => may && setAdding(true), { preventDefault: true })
  if (jobs.error) return <Failed error={jobs.error} again={() => void jobs.refetch()} />
  if (!jobs.data) return <Loading what="the jobs" />
  const material = (key: string) => String(library?.items.find((item) => item.kind === 'materials' && item.key === key)?.data.name ?? key)
  const words = find.toLowerCase().split(/\s+/).filter(Boolean)
  const shown = jobs.data.filter((job) => words.every((word) => `${job.number} ${job.title} ${material(job.material)}`.toLowerCase().includes(word)))
  return (
    <main className="mx-auto max-w-[1180px] px-6 py-5">
      <div className="mb-3 flex items-center gap-4">
        <h1 className="text-[20px] font-semibold">Jobs</h1>
        <input ref={search} aria-label="Find a job" className="field w-64" placeholder="Number, title or material  ( / )" value={find} onChange={(event) => setFind(event.target.value)} />
        <span className="text-ink-2"><span className="n">{shown.length}</span> of <span className="n">{jobs.data.length}</span></span>
        {may && !adding && (
          <button className="press ml-auto" onClick={() => setAdding(true)}>
            New job <span className="n ml-1 opacity-70">n</span>
          </button>
        )}
      </div>
      {adding && <NewJob close={() => setAdding(false)} />}
      {jobs.data.length === 0 ? (
        <Empty title="No jobs yet">A job is one part on one drawing revision. Make the first with “New job”.</Empty>
      ) : shown.length === 0 ? (
        <Empty title="No job is called that">Nothing matches “{find}”.</Empty>
      ) : (
        <Table jobs={shown} material={material} />
      )}
    </main>
  )
}

function Table({ jobs, material }: { jobs: Job[]; material: (key: string) => string }) {
  const navigate = useNavigate()
  const body = useRef<HTMLTableSectionElement>(null)
  const walk = (event: React.KeyboardEvent, place: number) => {
    const by = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0
    if (!by) return
    event.preventDefault()
    body.current?.querySelectorAll<HTMLAnchorElement>('a[data-row]')[place + by]?.focus()
  }
  return (
    <table className="w-full border-t border-ink">
      <thead className="text-small text-ink-2">
        <tr className="[&>th]:border-b [&>th]:border-hair-strong [&>th]:py-1.5 [&>th]:pr-4">
          <th className="w-24">Number</th>
          <th>Part</th>
          <th className="w-10">Rev</th>
          <th className="w-44">Material</th>
          <th className="w-20 text-right!">Quantity</th>
          <th className="w-36">Due</th>
          <th className="w-20">Setups</th>
          <th className="w-28">Released</th>
          <th className="w-48">Last change</th>
        </tr>
      </thead>
      <tbody ref={body}>
        {jobs.map((job, place) => {
          const to = `/jobs/${job.number}/${job.has_part ? 'setups' : 'part'}`
          return (
            <tr key={job.id} className="cursor-pointer [&>td]:border-b [&>td]:border-hair [&>td]:py-2 [&>td]:pr-4 hover:bg-mark-wash focus-within:bg-mark-wash" onClick={() => void navigate(to)}>
              <td>
                <a data-row href={to} className="n font-semibold" onKeyDown={(event) => walk(event, place)} onClick={(event) => (event.preventDefault(), void navigate(to))}>
                  {job.number}
                </a>
              </td>
              <td className="text-lead">{job.title}</td>
              <td className="n">{job.revision}</td>
              <td>{job.material ? material(job.material) : <span className="text-ink-3">not chosen</span>}</td>
              <td className="n text-right">{job.quantity}</td>
              <td>{job.due ? <Due date={job.due} /> : <span className="text-ink-3">–</span>}</td>
              <td>{job.setups ? <span className="n">{job.setups}</span> : <span className="text-ink-3">{job.has_part ? 'none yet' : 'no part yet'}</span>}</td>
              <td>{job.released ? <>release <span className="n">{job.released}</span></> : <span className="text-ink-3">never</span>}</td>
              <td className="text-ink-2">draft <span className="n">{job.draft}</span> by {job.changed_by}{job.affected.length > 0 && <span className="block text-small text-amber-edge" title={job.affected.join(', ')}>{job.affected[0]}{job.affected.length > 1 && ` and ${job.affected.length - 1} more`} changed since</span>}</td>
            </tr>
          )
        })}
      </tbody>
    </table>
  )
}

function Due({ date }: { date: string }) {
  const [now] = useState(() => Date.now())
  const days = Math.ceil((new Date(date).getTime() - now) / DAY_MS)
  return (
    <>
      <span className="n">{date}</span> <span className="text-small text-ink-2">{days < 0 ? <b className="text-red-edge">{-days} d late</b> : `in ${days} d`}</span>
    </>
  )
}

function NewJob({ close }: { close: () => void }) {
  const cache = useQueryClient()
  const navigate = useNavigate()
  const { data: library } = useLibrary()
  const [form, setForm] = useState({ number: '', title: '', revision: '', material: '', quantity: '1', due: '', remark: '' })
  const make = useMutation({
    mutationFn: () => ask(api.POST('/api/jobs', { body: { ...form, quantity: Number(form.quantity), due: form.due || null } })),
    onSuccess: (job) => {
      void cache.invalidateQueries({ queryKey: ['jobs'] })
      void navigate(`/jobs/${job.number}/part`)
    },
  })
  const problem: Problem | null = make.error instanceof Refused ? make.error.problem : null
  const bad = (name: string) => problem?.problems.find((each) => each.field === name)?.sentence
  const input = (name: keyof typeof form, label: string, wide: string, more: React.InputHTMLAttributes<HTMLInputElement> = {}) => (
    <label className="flex flex-col gap-0.5">
      <span className="text-small text-ink-2">{label}</span>
      <input className={`field ${wide} ${bad(name) ? 'border-b-2 border-b-red!' : ''}`} value={form[name]} aria-invalid={!!bad(name)} onChange={(event) => setForm({ ...form, [name]: event.target.value })} {...more} />
    </label>
  )
  return (
    <form
      className="mb-4 border border-brass bg-paper p-4"
      onKeyDown={(event) => event.key === 'Escape' && close()}
      onSubmit={(event) => {
        event.preventDefault()
        make.mutate()
      }}
    >
      <div className="flex flex-wrap items-end gap-3">
        {input('number', 'Number', 'w-28 n', { autoFocus: true, required: true, maxLength: 40 })}
        {input('title', 'Title', 'w-60', { required: true, maxLength: 120 })}
        {input('revision', 'Revision', 'w-16 n', { maxLength: 10 })}
        <label className="flex flex-col gap-0.5">
          <span className="text-small text-ink-2">Material</span>
          <select className="field w-44" value={form.material} onChange={(event) => setForm({ ...form, material: event.target.value })}>
            <option value="">choose later</option>
            {library?.items.filter((item) => item.kind === 'materials').map((item) => <option key={item.key} value={item.key}>{String(item.data.name)}</option>)}
          </select>
        </label>
        {input('quantity', 'Quantity', 'w-20 n text-right', { inputMode: 'numeric', pattern: '[0-9]+', title: 'a whole number' })}
        {input('due', 'Due', 'w-36 n', { type: 'date' })}
        {input('remark', 'Remark', 'w-72', { maxLength: 500 })}
        <button className="press" disabled={make.isPending}>Make the job</button>
        <button type="button" className="link py-1" onClick={close}>Cancel</button>
      </div>
      {problem && <p role="alert" className="mt-2 text-red-edge">{problem.sentence}</p>}
    </form>
  )
}
