import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { Link, useSearchParams } from 'react-router'
import { api, ask, type SlopeRanking } from '../../api/client'
import { useLibrary } from '../../api/hooks'
import { Figure, Sentence } from '../../ui/Figure'
import { clock } from '../../ui/format'
import { NumberField } from '../../ui/NumberField'
import { Empty, Failed, Loading } from '../../ui/States'
import { Profile } from './SlopeProfile'

type Way = SlopeRanking['ways'][number]
const NUMBERS = {
  size_mm: 3,
  angle_deg: 25,
  length_mm: 300,
  cusp_mm: 0.01,
  quantity: 40,
  special_cost: 180,
  special_days: 15,
}

// A chamfer at an angle no stock tool has: buy one, step a ball along it, or tilt what there is.
export function SlopeMethods() {
  const [params, setParams] = useSearchParams()
  const library = useLibrary()
  const materials = (library.data?.items ?? []).filter((item) => item.kind === 'materials')
  const numbers = Object.fromEntries(
    Object.entries(NUMBERS).map(([name, start]) => [name, Number(params.get(name) ?? start)]),
  ) as typeof NUMBERS
  const asked = {
    ...numbers,
    material:
      params.get('material') ??
      (materials.some((item) => item.key === 'c45') ? 'c45' : (materials[0]?.key ?? '')),
    machines: [],
  }
  const { data, error } = useQuery({
    queryKey: ['slope-methods', asked],
    meta: { shown: true },
    enabled: asked.material !== '',
    placeholderData: keepPreviousData,
    retry: false,
    queryFn: () => ask(api.POST('/api/slope-methods', { body: asked })),
  })
  const set = (name: string, value: string | number | null) => {
    const next = new URLSearchParams(params)
    if (value === null) next.delete(name)
    else next.set(name, String(value))
    setParams(next, { replace: true })
  }
  const field = (name: keyof typeof NUMBERS, label: string, quantity: string) => (
    <NumberField
      label={label}
      quantity={quantity}
      value={asked[name]}
      onCommit={(value) =>
        set(name, quantity === 'count' && value !== null ? Math.round(value) : value)
      }
    />
  )
  if (library.error) return <Failed error={library.error} again={() => void library.refetch()} />
  if (!library.data) return <Loading what="the library" />
  return (
    <div className="mx-auto max-w-[1180px] px-6 py-4">
      <p className="text-small text-ink-2 print:hidden">
        <Link className="link" to="/bench">
          Bench
        </Link>{' '}
        / Finish
      </p>
      <h1 className="border-b border-ink pb-1.5 text-big font-semibold">
        A chamfer at an angle no stock tool has
      </h1>
      <div className="flex items-start gap-6 py-3">
        <Profile size={asked.size_mm} angle={asked.angle_deg} />
        <div className="flex flex-wrap items-center gap-x-6 gap-y-2">
          {field('size_mm', 'Wide on the face', 'size')}
          {field('angle_deg', 'From the face', 'angle')}
          <span className="text-ink-2">
            from the wall <Figure value={90 - asked.angle_deg} quantity="angle" />
          </span>
          {field('length_mm', 'Edge on a part', 'length')}
          {field('cusp_mm', 'Cusp up to', 'size')}
          {field('quantity', 'Parts', 'count')}
          <label className="flex items-center gap-1.5">
            <span className="text-ink-2">Material</span>
            <select
              className="field"
              value={asked.material}
              onChange={(event) => set('material', event.target.value)}
            >
              {materials.map((item) => (
                <option key={item.key} value={item.key}>
                  {String(item.data.name)}
                </option>
              ))}
            </select>
          </label>
          {field('special_cost', 'A special tool costs', 'count')}
          {field('special_days', 'and takes days', 'count')}
        </div>
      </div>
      {error ? (
        <p role="alert" className="border-l-4 border-red bg-red-wash px-3 py-2 text-red-edge">
          {error.message}
        </p>
      ) : !data ? (
        <Loading what="the ways" />
      ) : data.length === 0 ? (
        <Empty title="No machines">The library has no machine to make it on.</Empty>
      ) : (
        data.map((each) => (
          <OnMachine key={each.machine} ranking={each} quantity={asked.quantity} />
        ))
      )}
      <p className="mt-4 border-t border-hair pt-2 text-small text-ink-3">
        Times are in cut along the edge, without approach and tool change. A cost is machine time at
        the machine’s hourly rate and the tool shared by all parts. A planning aid: the tool maker’s
        limits come first.
      </p>
    </div>
  )
}

function OnMachine({ ranking, quantity }: { ranking: SlopeRanking; quantity: number }) {
  const can = ranking.ways.filter((each) => each.works)
  const cannot = ranking.ways.filter((each) => !each.works)
  return (
    <section aria-label={ranking.name} className="mt-3">
      <h2 className="border-b border-ink-3 text-lead font-semibold">{ranking.name}</h2>
      <table className="w-full [&_td]:border-b [&_td]:border-hair [&_td]:py-1 [&_td]:pr-4 [&_td]:align-baseline [&_th]:pr-4 [&_th]:text-small [&_th]:text-ink-2">
        <thead>
          <tr>
            <th className="w-48">Way</th>
            <th>Tool</th>
            <th className="w-20">In cut</th>
            <th className="w-16">Passes</th>
            <th className="w-24">Cusp</th>
            <th className="w-32">Tilt, shift</th>
            <th className="w-28">Cuts at Ø</th>
            <th className="w-32">Buy</th>
            <th className="w-24">A part</th>
          </tr>
        </thead>
        <tbody>
          {can.map((each, place) => (
            <Row key={each.name} way={each} first={place === 0} />
          ))}
        </tbody>
      </table>
      {can.length === 0 && <p className="py-2 text-red-edge">No way of making it works here.</p>}
      {ranking.pays_from != null && (
        <p className="py-1 text-small">
          The special tool pays from <b className="n">{ranking.pays_from}</b> parts on
          {ranking.pays_from > quantity ? (
            <>
              ; these are <span className="n">{quantity}</span>.
            </>
          ) : (
            '.'
          )}
        </p>
      )}
      {cannot.length > 0 && (
        <p className="pb-1 text-small text-ink-2">
          Not here:{' '}
          {cannot.map((each, k) => (
            <span key={each.name}>
              {k > 0 && '; '}
              {each.name} (<Sentence text={each.because.text} values={each.because.values} />)
            </span>
          ))}
          .
        </p>
      )}
    </section>
  )
}

function Row({ way, first }: { way: Way; first: boolean }) {
  return (
    <tr>
      <td className={first ? 'font-semibold' : ''}>
        {way.name}
        {way.suits.text && (
          <span className="block text-small font-normal text-ink-2">
            <Sentence text={way.suits.text} values={way.suits.values} />
          </span>
        )}
      </td>
      <td>
        {way.tool || 'to be ordered'}{' '}
        <span className="text-small text-ink-2">
          <Figure value={way.rpm} quantity="spindle_speed" />,{' '}
          <Figure value={way.feed_mm_min} quantity="feed" />
        </span>
      </td>
      <td className="n">{clock(way.seconds ?? 0)}</td>
      <td className="n">{way.passes}</td>
      <td>
        {way.cusp_mm > 0 ? (
          <Figure value={way.cusp_mm} quantity="size" />
        ) : (
          <span className="text-ink-3">flat</span>
        )}
      </td>
      <td>
        {way.tilt_deg > 0 ? (
          <>
            <Figure value={way.tilt_deg} quantity="angle" />
            {way.shift_mm > 0 && (
              <>
                , <Figure value={way.shift_mm} quantity="size" />
              </>
            )}
          </>
        ) : (
          <span className="text-ink-3">upright</span>
        )}
      </td>
      <td>
        <Figure value={way.cuts_at_mm} quantity="length" />
      </td>
      <td>
        {way.cost > 0 ? (
          <>
            <span className="n">{way.cost}</span>, <span className="n">{way.days}</span> days
          </>
        ) : (
          <span className="text-ink-3">nothing</span>
        )}
      </td>
      <td className="n">{way.per_part == null ? '–' : way.per_part.toFixed(2)}</td>
    </tr>
  )
}
