import { useQuery } from '@tanstack/react-query'
import { api, ask, type PlanAnswer } from '../../api/client'
import type { components } from '../../api/schema'
import { useUnits } from '../../app/units'
import { Figure } from '../../ui/Figure'
import { show } from '../../ui/format'

type Ways = components['schemas']['WrongWayOut']
type Way = Ways['ways'][number]

// The other ways a part goes into what holds it, and what becomes of it then; nothing while nobody knows.
export function WrongWays({ answer, station }: { answer: PlanAnswer; station: string }) {
  const { data, error } = useQuery({
    queryKey: ['wrong-way', answer.id, answer.revision, station],
    placeholderData: (before) => before,
    enabled: station !== '',
    queryFn: () =>
      ask(
        api.GET('/api/plans/{id}/stations/{station}/wrong-way', {
          params: { path: { id: answer.id, station } },
        }),
      ) as Promise<Ways | null>,
  })
  if (error)
    return (
      <p role="alert" className="border-b border-hair px-4 py-2 text-small text-ink-2">
        {error.message}
      </p>
    )
  if (!data) return null
  const out = Object.values(data.not_in).reduce((all, each) => all + each, 0)
  return (
    <section className="border-b border-hair px-4 py-2" aria-label="Put in wrong">
      <h3 className="text-body font-semibold">Put in otherwise</h3>
      {data.ways.length === 0 && (
        <p className="text-body">No other way of putting it in does it harm.</p>
      )}
      <ul className="grid gap-1">
        {data.ways.map((way, k) => (
          <Told key={k} way={way} marked={data.marked} />
        ))}
      </ul>
      <p className="text-small text-ink-2" title={reasons(data)}>
        {data.ways.length > 0 &&
          data.marked &&
          `Put in right, its mark lies at the ${data.marked}. `}
        Of <span className="n">{data.ways.length + data.same + out}</span> other ways no difference:{' '}
        <span className="n">{data.same}</span>, not going in: <span className="n">{out}</span>
        {out > 0 && ` (${mostly(data)})`}.
      </p>
    </section>
  )
}

const NOTED_MM = 0.5
const over = (way: Way) => Math.max(...way.pushed.map(Math.abs))

function Told({ way, marked }: { way: Way; marked: string }) {
  const { system } = useUnits()
  const at = way.at.map((each, k) => `${'XYZ'[k]} ${show(each, 'length', system)}`).join(', ')
  return (
    <li className="text-body">
      {way.words}
      {over(way) > NOTED_MM && (
        <>
          , <Figure value={over(way)} quantity="length" /> farther over
        </>
      )}
      :{' '}
      {way.spoils_mm3 > 0 ? (
        <>
          <b>
            <Figure value={way.spoils_mm3} quantity="volume" />
          </b>{' '}
          of the part are cut away, most at <span className="n">{at}</span>.
        </>
      ) : (
        'what is cut lies otherwise, and none of it in the part.'
      )}{' '}
      <span className="text-ink-2">
        {way.pin
          ? `A pin ${show(way.pin.diameter, 'length', system)} thick and ${show(way.pin.high, 'length', system)} high at X ${show(way.pin.at[0]!, 'length', system)}, Y ${show(way.pin.at[1]!, 'length', system)} keeps it out.`
          : way.spoils_mm3 > 0 && !marked
            ? 'Stamp a corner, and say on the sheet where it lies.'
            : ''}
      </span>
    </li>
  )
}

const reasons = (ways: Ways) =>
  Object.entries(ways.not_in)
    .map(([why, count]) => `${count}: ${why}`)
    .join('\n')

const mostly = (ways: Ways) => Object.entries(ways.not_in).sort((a, b) => b[1] - a[1])[0]?.[0] ?? ''
