import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api, ask } from '../../api/client'
import { Empty, Failed, Loading } from '../../ui/States'

const SIZE = 50

// Who did what, on what, when: for those who answer for it.
export function Record() {
  const [find, setFind] = useState('')
  const [what, setWhat] = useState('')
  const [page, setPage] = useState(0)
  const record = useQuery({
    queryKey: ['record', find, what, page],
    meta: { shown: true },
    placeholderData: keepPreviousData,
    queryFn: () => ask(api.GET('/api/record', { params: { query: { find, what, page } } })),
  })
  if (record.error) return <Failed error={record.error} again={() => void record.refetch()} />
  if (!record.data) return <Loading what="the record" />
  const { all, entries, whats } = record.data
  return (
    <div className="mx-auto max-w-[1240px] px-6 py-4">
      <div className="mb-3 flex flex-wrap items-center gap-4">
        <h1 className="text-[20px] font-semibold">Record</h1>
        <input
          aria-label="Find in the record"
          className="field w-64"
          placeholder="Name, job or plan"
          value={find}
          onChange={(event) => (setFind(event.target.value), setPage(0))}
        />
        <label className="flex items-center gap-1.5">
          <span className="text-ink-2">What</span>
          <select
            className="field"
            value={what}
            onChange={(event) => (setWhat(event.target.value), setPage(0))}
          >
            <option value="">everything</option>
            {whats.map((each) => (
              <option key={each}>{each}</option>
            ))}
          </select>
        </label>
        <span role="status" className="text-ink-2">
          <span className="n">{all}</span> {all === 1 ? 'entry' : 'entries'}
        </span>
      </div>
      {entries.length === 0 ? (
        <Empty title="Nothing is found">What is done from now on is written here.</Empty>
      ) : (
        <table className="w-full border-t border-ink">
          <thead className="text-small text-ink-2">
            <tr className="[&>th]:border-b [&>th]:border-hair-strong [&>th]:py-1 [&>th]:pr-4">
              <th scope="col" className="w-40">
                When
              </th>
              <th scope="col" className="w-28">
                Who
              </th>
              <th scope="col" className="w-44">
                What
              </th>
              <th scope="col">On what</th>
              <th scope="col" className="w-36">
                Before
              </th>
              <th scope="col" className="w-36">
                After
              </th>
            </tr>
          </thead>
          <tbody className="[&_td]:border-b [&_td]:border-hair [&_td]:py-1 [&_td]:pr-4 [&_td]:align-baseline">
            {entries.map((each) => (
              <tr key={each.id}>
                <td className="n text-small">
                  {new Date(each.at).toLocaleString([], {
                    dateStyle: 'short',
                    timeStyle: 'medium',
                  })}
                </td>
                <td>{each.by}</td>
                <td>{each.what}</td>
                <td>
                  <span className="n">{each.on}</span>{' '}
                  <span className="text-small text-ink-2">{said(each.about)}</span>
                </td>
                <td className="n text-small" title={each.before}>
                  {each.before.slice(0, 12)}
                </td>
                <td className="n text-small" title={each.after}>
                  {each.after.slice(0, 12)}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {all > SIZE && (
        <nav aria-label="Pages" className="mt-3 flex items-center gap-4">
          <button className="press-2" disabled={page === 0} onClick={() => setPage(page - 1)}>
            Newer
          </button>
          <span className="n">
            {page * SIZE + 1} – {Math.min((page + 1) * SIZE, all)}
          </span>
          <button
            className="press-2"
            disabled={(page + 1) * SIZE >= all}
            onClick={() => setPage(page + 1)}
          >
            Older
          </button>
        </nav>
      )}
    </div>
  )
}

const said = (about: { [name: string]: unknown }) =>
  Object.entries(about)
    .map(
      ([name, value]) =>
        `${name.replaceAll('_', ' ')} ${Array.isArray(value) ? value.join(', ') : String(value)}`,
    )
    .join('; ')
