import { useState, type ReactNode } from 'react'
import type { Finding } from '../api/client'
import type { PlanSession } from '../api/planSession'
import { Sentence } from './Figure'
import { Fixes } from './Fixes'
import { Mark } from './Mark'

type Props = {
  finding: Finding
  plan: number
  revision: number
  session: PlanSession
  why?: ReactNode
  opened?: ReactNode
}

const TITLE = { stop: 'Will not work.', look: 'Look.', note: 'Note.' }
const TONE = { stop: 'text-red-edge', look: 'text-amber-edge', note: '' }

// A finding: its sentence over the whole width, then what would mend it, then the planner's own words for leaving it.
export function FindingRow({ finding, plan, revision, session, why, opened }: Props) {
  return (
    <div
      role="group"
      aria-label={finding.id}
      className="grid grid-cols-[18px_minmax(0,1fr)] gap-x-2 gap-y-1"
    >
      <span className="pt-px">
        <Mark
          state={finding.kept ? 'note' : finding.severity}
          size={14}
          label={finding.kept ? 'kept' : undefined}
        />
      </span>
      <p>
        <b className={finding.kept ? '' : TONE[finding.severity]}>
          {finding.kept ? 'Kept.' : TITLE[finding.severity]}
        </b>{' '}
        <Sentence text={finding.message} values={finding.values} /> {why}
      </p>
      <div className="col-start-2 min-w-0">
        {opened}
        <Fixes finding={finding} plan={plan} revision={revision} session={session} />
        {finding.severity === 'look' && <Keeping finding={finding} session={session} />}
      </div>
    </div>
  )
}

// To leave it as it is, with words that stand in the review and on the sheet; and to look at it again.
function Keeping({ finding, session }: { finding: Finding; session: PlanSession }) {
  const [words, setWords] = useState<string | null>(null)
  const keep = (said: string) =>
    session
      .edit([{ do: 'keep', on: finding.place, finding: finding.named, words: said }])
      .then(() => setWords(null))
      .catch(() => {})
  if (finding.kept)
    return (
      <p className="text-ink-2">
        “{finding.kept}”{' '}
        <button className="link ml-2" onClick={() => void keep('')}>
          Look at it again
        </button>
      </p>
    )
  if (words === null)
    return (
      <button className="link mt-1 text-small" onClick={() => setWords('')}>
        Keep it, and say why
      </button>
    )
  return (
    <form
      className="mt-1 flex flex-wrap items-center gap-2"
      onSubmit={(event) => (
        event.preventDefault(),
        words.trim().length > 2 && void keep(words.trim())
      )}
    >
      <input
        autoFocus
        className="field w-80 max-w-full"
        aria-label="Why it may stay as it is"
        placeholder="why it may stay: it goes to the review and on the sheet"
        value={words}
        maxLength={200}
        onChange={(event) => setWords(event.target.value)}
        onKeyDown={(event) => event.key === 'Escape' && (event.stopPropagation(), setWords(null))}
      />
      <button className="press-2" disabled={words.trim().length < 3}>
        Keep it
      </button>
    </form>
  )
}
