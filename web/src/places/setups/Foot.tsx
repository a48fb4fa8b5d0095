import { Mark, QUESTION_NAME, type Question } from '../../ui/Mark'
import { useFrame } from '../frame'
import { NotFinished } from './NotFinished'

export function Foot({
  question,
  nextFinding,
  onAdd,
}: {
  question: Question | null
  nextFinding: () => void
  onAdd: () => void
}) {
  const { evaluation, answer, session } = useFrame()
  if (!evaluation) return null
  const answers = evaluation.setups.flatMap((setup) =>
    setup.operations.flatMap((op) => Object.values(op.answers)),
  )
  const fine = answers.filter((each) => each.state === 'fine').length
  const unknown = answers.filter((each) => each.state === 'unknown').length
  const working = answers.filter((each) => each.state === 'working').length
  const stops = evaluation.findings.filter((f) => f.severity === 'stop').length
  const looks = evaluation.findings.filter((f) => f.severity === 'look' && !f.kept).length
  const key = 'n inline-block border border-hair-strong bg-paper px-1 text-tiny leading-4'
  return (
    <footer className="flex items-center gap-4 border-t border-hair-strong bg-surface px-4 text-small text-ink-2">
      {question && <b className="text-ink">Asking: {QUESTION_NAME[question]}</b>}
      <button className="flex items-center gap-1.5 hover:text-ink" onClick={nextFinding}>
        <Mark state="stop" size={11} /> <b className="n text-ink">{stops}</b> will not work
      </button>
      <button className="flex items-center gap-1.5 hover:text-ink" onClick={nextFinding}>
        <Mark state="look" size={12} /> <b className="n text-ink">{looks}</b> to look at
      </button>
      <NotFinished onAdd={onAdd} />
      <span>
        <b className="n text-ink">{fine}</b> answers of <span className="n">{answers.length}</span>{' '}
        are fine
        {unknown > 0 && (
          <>
            , <b className="n text-ink">{unknown}</b> not known
          </>
        )}
        {working > 0 && (
          <>
            , <b className="n text-ink">{working}</b> being worked out
          </>
        )}
      </span>
      <span className="ml-auto flex items-center gap-3">
        <button
          className="link disabled:no-underline disabled:opacity-50"
          disabled={!answer.can_undo}
          onClick={() => void session.undo()}
        >
          undo
        </button>
        <button
          className="link disabled:no-underline disabled:opacity-50"
          disabled={!answer.can_redo}
          onClick={() => void session.redo()}
        >
          again
        </button>
        <span>
          <span className={key}>.</span> next finding
        </span>
        <span>
          <span className={key}>1</span>–<span className={key}>5</span> ask one question
        </span>
        <span>
          <span className={key}>a</span> add
        </span>
        <span>
          <span className={key}>?</span> keys
        </span>
      </span>
    </footer>
  )
}
