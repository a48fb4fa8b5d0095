import type { Evaluation } from '../../api/client'
import type { components } from '../../api/schema'
import { Sentence } from '../../ui/Figure'
import { clock } from '../../ui/format'
import { Where } from './Saving'

const SHOWN = 6

// What may save time too, and how much about: whether it stops something is known once it was tried.
export function Waiting({
  waiting,
  evaluation,
}: {
  waiting: components['schemas']['WaitingOut'][]
  evaluation: Evaluation | null
}) {
  if (waiting.length === 0) return null
  return (
    <section aria-label="Not tried yet" className="mt-3 text-ink-2">
      <h3 className="font-semibold">Not tried yet</h3>
      <p className="mb-1 text-small">
        About what each may save of the batch. Whether it stops something is known once it was
        tried.
      </p>
      <ul className="text-small">
        {waiting.slice(0, SHOWN).map((each) => (
          <li
            key={each.of}
            className="grid grid-cols-[76px_1fr] items-baseline gap-x-3 border-t border-hair py-1"
          >
            <span className="n text-ink-3">
              {each.batch_s === null ? 'not known' : `≈ ${clock(each.batch_s)}`}
            </span>
            <span>
              <Where of={each.of} setup={each.setup} evaluation={evaluation} />
              <Sentence text={each.said.text} values={each.said.values} />
            </span>
          </li>
        ))}
      </ul>
    </section>
  )
}
