import { useMutation, useQueryClient } from '@tanstack/react-query'
import { api, ask, type Review } from '../../api/client'
import { useRights } from '../../app/session'
import { useFrame } from '../frame'
import { useReviewPolling } from './polling'

export function History({ review }: { review: Review }) {
  const { answer } = useFrame()
  const drawing = review.releases.some((each) => each.drawing === 'drawing') || review.working
  useReviewPolling(answer.id, drawing)
  if (review.releases.length === 0)
    return (
      <p className="py-4 text-ink-2">
        Nothing has been released yet. The operators see nothing of a draft.
      </p>
    )
  return (
    <section className="py-3">
      <h2 className="mb-1 font-semibold">Releases</h2>
      {review.releases.map((each) => (
        <article key={each.number} className="border-b border-hair py-2">
          <p className="flex items-baseline gap-2">
            <b>
              Release <span className="n">{each.number}</span>
            </b>
            <span className={each.current ? '' : 'text-ink-3'}>
              {each.current ? 'on the floor' : 'replaced'}
            </span>
            <span className="ml-auto text-small text-ink-2">
              <span className="n">
                {new Date(each.at).toLocaleString([], { dateStyle: 'medium', timeStyle: 'short' })}
              </span>{' '}
              by {each.by}
            </span>
          </p>
          {each.note && <p className="text-ink-2">{each.note}</p>}
          <p className="flex flex-wrap gap-x-4 gap-y-1">
            {each.drawing === 'drawing' && (
              <span role="status" className="text-ink-2">
                The sheets are being drawn …
              </span>
            )}
            {each.drawing === 'failed' && (
              <DrawAgain code={each.code} words="The sheets could not be drawn." />
            )}
            {each.sheets.map((setup) => (
              <span key={setup}>
                <a className="link inline-block py-0.5" href={`/s/${each.code}/${setup}`}>
                  Setup <span className="n">{setup}</span>
                </a>{' '}
                <a
                  className="link inline-block py-1 text-small"
                  href={`/s/${each.code}/${setup}.pdf`}
                >
                  PDF
                </a>
              </span>
            ))}
          </p>
          <p className="n truncate text-tiny text-ink-3" title={each.sha256}>
            draft {each.draft}, SHA-256 {each.sha256.slice(0, 24)}…
          </p>
          <Kept code={each.code} drawn={each.drawing === 'drawn'} />
        </article>
      ))}
    </section>
  )
}

export function DrawAgain({ code, words }: { code: string; words: string }) {
  const { answer } = useFrame()
  const cache = useQueryClient()
  const may = useRights().has('release')
  const send = useMutation({
    mutationFn: () => ask(api.POST('/api/releases/{code}/sheets', { params: { path: { code } } })),
    onSuccess: () => cache.invalidateQueries({ queryKey: ['review', answer.id] }),
  })
  return (
    <span role="status" className="text-ink-2">
      {words}{' '}
      {may && (
        <button className="link" disabled={send.isPending} onClick={() => send.mutate()}>
          Draw them again
        </button>
      )}
      {send.isSuccess && ' Asked for.'}
      {send.error && (
        <span role="alert" className="text-red-edge">
          {' '}
          {send.error.message}
        </span>
      )}
    </span>
  )
}

// What an approver can do with a release that stands: keep its record, have its sheets drawn anew.
export function Kept({ code, drawn }: { code: string; drawn: boolean }) {
  const rights = useRights()
  if (!rights.has('record')) return null
  return (
    <p className="flex flex-wrap items-baseline gap-x-4 text-small">
      <a className="link" href={`/api/releases/${code}/record.json`}>
        Download the record
      </a>
      {drawn && <DrawAgain code={code} words="" />}
    </p>
  )
}
