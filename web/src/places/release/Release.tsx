import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { NavLink } from 'react-router'
import { api, ask, type Finding, type Review } from '../../api/client'
import { useReview } from '../../api/hooks'
import { useRights } from '../../app/session'
import { Sentence } from '../../ui/Figure'
import { Mark } from '../../ui/Mark'
import { Failed, Loading } from '../../ui/States'
import { useFrame } from '../frame'

const POLL_MS = 800

export function Release() {
  const { answer, evaluation } = useFrame()
  const review = useReview(answer.id)
  if (review.error) return <Failed error={review.error} again={() => void review.refetch()} />
  if (!review.data || !evaluation) return <Loading what="the review" />
  return (
    <div className="grid h-full grid-cols-[1fr_440px]">
      <Findings findings={evaluation.findings} review={review.data} />
      <aside className="relative min-h-0 overflow-y-auto border-l border-hair-strong bg-paper px-6 py-4">
        <Publish review={review.data} />
        <History review={review.data} />
      </aside>
    </div>
  )
}

function Findings({ findings, review }: { findings: Finding[]; review: Review }) {
  const { evaluation } = useFrame()
  const stops = findings.filter((f) => f.severity === 'stop')
  const looks = findings.filter((f) => f.severity === 'look' && !f.kept)
  const kept = findings.filter((f) => f.kept)
  const notes = findings.filter((f) => f.severity === 'note')
  const place = (finding: Finding) => {
    const setup = evaluation?.setups.find((each) => each.id === finding.setup)
    const op = setup?.operations.find((each) => each.id === finding.operation)
    return op
      ? `Setup ${setup?.number}, operation ${op.number} ${op.title}`
      : `Setup ${setup?.number ?? ''}`
  }
  return (
    <div className="relative min-h-0 overflow-y-auto px-6 py-4">
      <h2 className="mb-1 text-[20px] font-semibold">
        What stands between this draft and the shop floor
      </h2>
      <p className="mb-4 max-w-2xl text-ink-2">
        What will not work has to be changed. What is to be looked at may stay, with a reason in
        writing that goes on the sheet. Computed answers are planning aids; the machine maker’s
        manual, the shop’s rules and the qualified person come first.
      </p>
      {findings.length === 0 && (
        <p className="border-y border-hair py-3">
          Every question of every operation is answered, and nothing is wrong.
        </p>
      )}
      {[
        ['Will not work', stops],
        ['To look at', looks],
        ['Kept by the planner', kept],
        ['Notes', notes],
      ].map(([title, list]) =>
        (list as Finding[]).length > 0 ? (
          <section key={title as string} className="mb-5">
            <h3 className="border-b border-ink pb-1 font-semibold">{title as string}</h3>
            {(list as Finding[]).map((finding) => (
              <article
                key={finding.key}
                aria-label={finding.id}
                className="grid grid-cols-[22px_1fr] gap-x-2 border-b border-hair py-2.5"
              >
                <Mark
                  state={finding.kept ? 'note' : finding.severity}
                  size={15}
                  label={finding.kept ? 'kept' : undefined}
                />
                <div>
                  <p className="text-small text-ink-2">
                    <NavLink
                      className="link"
                      to={`../setups?${finding.operation ? `op=${finding.operation}` : `setup=${finding.setup}`}`}
                    >
                      {place(finding)}
                    </NavLink>{' '}
                    <span className="n ml-2">{finding.id}</span>
                  </p>
                  <p className="text-lead">
                    <Sentence text={finding.message} values={finding.values} />
                  </p>
                  {finding.kept && (
                    <p className="mt-1 border-l-2 border-ink pl-2">
                      “{finding.kept}” This goes on the sheet.
                    </p>
                  )}
                  {finding.severity === 'look' && !finding.kept && (
                    <Accept finding={finding} review={review} />
                  )}
                </div>
              </article>
            ))}
          </section>
        ) : null,
      )}
    </div>
  )
}

function Accept({ finding, review }: { finding: Finding; review: Review }) {
  const { answer } = useFrame()
  const cache = useQueryClient()
  const may = useRights().has('release')
  const [note, setNote] = useState('')
  const accepted = review.accepted.find((each) => each.finding === finding.key)
  const send = useMutation({
    mutationFn: () =>
      ask(
        api.POST('/api/plans/{id}/acceptances', {
          params: { path: { id: answer.id } },
          body: {
            finding: finding.key,
            note,
            seen: Object.fromEntries(
              Object.entries(finding.values).map(([name, shown]) => [name, shown.value]),
            ),
          },
        }),
      ),
    onSuccess: (next) => cache.setQueryData(['review', answer.id], next),
  })
  if (accepted)
    return (
      <p className="mt-1 border-l-2 border-ink pl-2">
        Accepted by {accepted.by}: “{accepted.note}”
      </p>
    )
  if (!may) return <p className="mt-1 text-ink-2">Waits for an approver.</p>
  return (
    <form
      className="mt-1.5 flex items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault()
        send.mutate()
      }}
    >
      <input
        className="field w-[420px]"
        aria-label="Why it may stay as it is"
        placeholder="why it may stay, and what the operator has to mind"
        value={note}
        maxLength={300}
        onChange={(event) => setNote(event.target.value)}
      />
      <button className="press-2" disabled={send.isPending || note.trim().length < 3}>
        Accept
      </button>
      {send.error && (
        <span role="alert" className="text-red-edge">
          {send.error.message}
        </span>
      )}
    </form>
  )
}

function Publish({ review }: { review: Review }) {
  const { answer } = useFrame()
  const cache = useQueryClient()
  const [note, setNote] = useState('')
  const next = (review.releases[0]?.number ?? 0) + 1
  const send = useMutation({
    mutationFn: () =>
      ask(
        api.POST('/api/plans/{id}/releases', {
          params: { path: { id: answer.id } },
          body: { revision: review.revision, note },
        }),
      ),
    onSuccess: (now) => {
      cache.setQueryData(['review', answer.id], now)
      void cache.invalidateQueries({ queryKey: ['jobs'] })
      setNote('')
    },
  })
  const ready = review.against.length === 0
  return (
    <section className="border-b border-ink pb-4">
      <h2 className="text-head font-semibold">
        Release <span className="n">{next}</span> from draft{' '}
        <span className="n">{review.revision}</span>
      </h2>
      {ready ? (
        <p className="my-2">
          Nothing stands against it. The plan, the part, the tools and every answer are frozen with
          it; each setup gets its sheet.
        </p>
      ) : (
        <ul className="my-2">
          {review.against.map((each) => (
            <li key={each} className="border-l-2 border-hair-strong py-0.5 pl-2">
              {each}
            </li>
          ))}
        </ul>
      )}
      <div className="flex flex-col gap-2">
        <input
          className="field"
          aria-label="What is new in this release"
          placeholder="what is new, printed on the sheet"
          value={note}
          maxLength={300}
          onChange={(event) => setNote(event.target.value)}
        />
        <button
          className="press self-start"
          disabled={!ready || send.isPending}
          onClick={() => send.mutate()}
        >
          Release {next}
        </button>
      </div>
      {send.error && (
        <p role="alert" className="mt-2 text-red-edge">
          {send.error.message}
        </p>
      )}
    </section>
  )
}

function History({ review }: { review: Review }) {
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

function useReviewPolling(plan: number, on: boolean) {
  const cache = useQueryClient()
  useEffect(() => {
    if (!on) return
    const timer = setInterval(
      () => void cache.invalidateQueries({ queryKey: ['review', plan] }),
      POLL_MS,
    )
    return () => clearInterval(timer)
  }, [cache, plan, on])
}

function DrawAgain({ code, words }: { code: string; words: string }) {
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
function Kept({ code, drawn }: { code: string; drawn: boolean }) {
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
