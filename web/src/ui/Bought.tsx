import type { components } from '../api/schema'

// Tools of which the shop has too few: how many more, what they cost, and how long they take.
export function Bought({ buys }: { buys: components['schemas']['BuysOut'][] }) {
  return buys.map((each, k) => (
    <span key={each.tool}>
      {k > 0 && '; '}
      <span className="n">{each.more}</span> × {each.tool}
      {each.missing === 0 && ' that the batch wears out'},{' '}
      {each.cost === null ? 'price not known' : <span className="n">{each.cost.toFixed(2)}</span>}
      {each.days !== null && (
        <>
          , <span className="n">{each.days}</span> {each.days === 1 ? 'day' : 'days'}
        </>
      )}
    </span>
  ))
}
