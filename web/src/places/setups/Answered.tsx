import type { OperationResult } from '../../api/client'
import { Link } from 'react-router'
import { Figure } from '../../ui/Figure'
import { Gauge } from '../../ui/Gauge'
import { Mark, QUESTION_NAME, QUESTIONS, QuestionIcon, type Question } from '../../ui/Mark'
import { Why } from '../../ui/Why'
import { useFrame } from '../frame'
import { Travel } from './Travel'

type Known = { why: string | null; onWhy: (figure: string) => void }

// The five questions: how near each limit is, in the same place for every operation.
export function Answered({
  op,
  machine,
  why,
  onWhy,
}: Known & { op: OperationResult; machine: string }) {
  const { answer, evaluation } = useFrame()
  if (!evaluation) return null
  const rows = QUESTIONS.map((question) => ({
    question,
    gauges: op.gauges.filter((gauge) => gauge.question === question),
    answer: op.answers[question],
  }))
  return (
    <div className="border-t border-hair pt-1">
      {rows.some(({ answer: state }) => state?.state === 'working') && (
        <p role="status" className="flex items-center gap-1.5 py-px text-small text-ink-2">
          <Mark state="working" /> Being worked out; what stands here is from before the last
          change.
        </p>
      )}
      {rows.map(({ question, gauges, answer: state }) => (
        <div key={question}>
          {gauges.length === 0 && (
            <p className="grid grid-cols-[76px_1fr] items-center py-px">
              <span className="flex items-center gap-1.5 font-semibold">
                <QuestionIcon question={question} /> {QUESTION_NAME[question]}
              </span>
              <span className="text-ink-2">
                {state?.state === 'unknown' ? (
                  <>
                    <Mark state="unknown" /> {state.reason}
                  </>
                ) : state?.state === 'fine' ? (
                  'nothing in the way'
                ) : (
                  ''
                )}
              </span>
            </p>
          )}
          {question === 'travel' && gauges.length > 0 && (
            <Travel gauges={gauges} why={why} onWhy={onWhy} />
          )}
          {question === 'travel' && gauges.some((gauge) => gauge.figure === why) && why && (
            <Why figure={why} evaluation={evaluation} plan={answer.id} revision={answer.revision} />
          )}
          {question !== 'travel' &&
            gauges.map((gauge, place) => (
              <Measured
                key={gauge.id}
                gauge={gauge}
                question={place === 0 ? question : null}
                machine={machine}
                why={why}
                onWhy={onWhy}
              />
            ))}
        </div>
      ))}
    </div>
  )
}

type MeasuredProps = Known & {
  gauge: OperationResult['gauges'][number]
  question: Question | null
  machine: string
}

// One limit and what is asked of it; the question stands before the first of its own.
function Measured({ gauge, question, machine, why, onWhy }: MeasuredProps) {
  const { answer, evaluation } = useFrame()
  if (!evaluation) return null
  return (
    <div>
      <div className="grid grid-cols-[76px_96px_minmax(0,1fr)_84px_92px_34px] items-center gap-x-2 py-px">
        <span className="flex items-center gap-1.5 font-semibold">
          {question && (
            <>
              <QuestionIcon question={question} /> {QUESTION_NAME[question]}
            </>
          )}
        </span>
        <span>
          {gauge.id === 'power' ? (
            <Link
              className="hover:underline"
              title="on the machine’s curve"
              to={`/library/machines/${machine}`}
            >
              {gauge.name}
            </Link>
          ) : (
            gauge.name
          )}
        </span>
        <Gauge gauge={gauge} />
        <span className="text-right">
          <Figure value={gauge.value} quantity={gauge.quantity} />
        </span>
        <span className="text-small text-ink-2">
          {gauge.kind === 'needs' ? (
            <>
              needs <Figure value={gauge.limit} quantity={gauge.quantity} bare />
            </>
          ) : (
            <>
              up to <Figure value={gauge.limit} quantity={gauge.quantity} bare />
            </>
          )}
        </span>
        <button
          className="link text-small"
          aria-expanded={why === gauge.figure}
          onClick={() => onWhy(gauge.figure)}
        >
          {why === gauge.figure ? 'hide' : 'why'}
        </button>
      </div>
      {why === gauge.figure && (
        <Why
          figure={gauge.figure}
          evaluation={evaluation}
          plan={answer.id}
          revision={answer.revision}
        />
      )}
    </div>
  )
}
