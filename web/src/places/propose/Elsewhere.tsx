import { Sentence } from '../../ui/Figure'
import { Mark } from '../../ui/Mark'
import { type Other, together } from './proposals'

// The machines that no proposal begins on, each with why and what it would leave.
export function Elsewhere({ others }: { others: Other[] }) {
  if (others.length === 0) return null
  return (
    <section aria-label="Begun on other machines" className="border-t-2 border-ink pt-2">
      <h2 className="text-lead font-semibold">Begun on other machines</h2>
      <ul className="mt-2">
        {together(others).map(({ machines, of }) => (
          <li
            key={machines[0]}
            className="grid grid-cols-[120px_minmax(0,1fr)] gap-x-3 border-t border-hair py-1.5"
          >
            <b>{machines.join(', ')}</b>
            <div className="text-small">
              <p>
                <Sentence text={of.why.text} values={of.why.values} />
              </p>
              <Missed other={of} />
            </div>
          </li>
        ))}
      </ul>
    </section>
  )
}

function Missed({ other }: { other: Other }) {
  if (other.missed.length === 0) return null
  return (
    <ul className="text-ink-2">
      {other.missed.map((each, n) => (
        <li key={n} className="flex items-baseline gap-1.5">
          <Mark state="unknown" size={10} />
          <span>
            <Sentence text={each.what.text} values={each.what.values} />:{' '}
            <Sentence text={each.why.text} values={each.why.values} />
          </span>
        </li>
      ))}
    </ul>
  )
}
