import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { NavLink } from 'react-router'
import { api, ask, type Finding, type Review } from '../../api/client'
import { useReview } from '../../api/hooks'
import { useRights } from '../../app/session'
import { Sentence } from '../../ui/Figure'
import { Mark } from '../../ui/Mark'
import { Failed, Loading } from '../../ui/States'
import { useFrame } from '../frame'
import { History } from './History'

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
    if (!finding.setup) return 'The part and its drawing'
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
                      to={
                        finding.setup
                          ? `../setups?${finding.operation ? `op=${finding.operation}` : `setup=${finding.setup}`}`
                          : '../part'
                      }
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
      {review.stale.length > 0 && (
        <div role="note" className="my-2 border-l-2 border-amber-edge pl-2">
          Since release <span className="n">{next - 1}</span> the library has changed under it:
          <ul>
            {review.stale.map((each) => (
              <li key={each}>{each}</li>
            ))}
          </ul>
          Its sheets say so; release the plan again once every answer holds.
        </div>
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
