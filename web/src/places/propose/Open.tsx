import { Bought } from '../../ui/Bought'
import { Sentence } from '../../ui/Figure'
import { Mark } from '../../ui/Mark'
import type { Proposal } from './proposals'

// What stops it, what it could not plan, what the shop has too few of, and how much there is to look at.
export function Open({ proposal }: { proposal: Proposal }) {
  const { stops, missed, looks, unknown, buys } = proposal
  return (
    <div className="border-t border-hair pt-1.5 text-small">
      {stops.map((each, n) => (
        <p key={n} className="flex items-baseline gap-1.5">
          <Mark state="stop" size={10} />
          <Sentence text={each.text} values={each.values} />
        </p>
      ))}
      {missed.map((each, n) => (
        <p key={n} className="flex items-baseline gap-1.5">
          <Mark state="unknown" size={10} />
          <span>
            Not planned: <Sentence text={each.what.text} values={each.what.values} />.{' '}
            <Sentence text={each.why.text} values={each.why.values} />
          </span>
        </p>
      ))}
      {buys.length > 0 && (
        <p className="text-amber-edge">
          To buy: <Bought buys={buys} />.
        </p>
      )}
      {unknown > 0 && (
        <p>
          <span className="n">{unknown}</span> {unknown === 1 ? 'operation has' : 'operations have'}{' '}
          a question that could not be answered.
        </p>
      )}
      {looks.length > 0 && (
        <details>
          <summary className="cursor-pointer">
            <Mark state="look" size={10} /> <span className="n">{looks.length}</span> to look at
          </summary>
          <ul className="pl-5 text-ink-2">
            {looks.map((each, n) => (
              <li key={n}>
                <Sentence text={each.text} values={each.values} />
              </li>
            ))}
          </ul>
        </details>
      )}
      {proposal.whole && looks.length === 0 && (
        <p>Nothing stops it and nothing is to be looked at.</p>
      )}
    </div>
  )
}
