import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { Link, useSearchParams } from 'react-router'
import { api, ask, type Ranking } from '../../api/client'
import { useLibrary } from '../../api/hooks'
import { Figure, Sentence } from '../../ui/Figure'
import { clock } from '../../ui/format'
import { NumberField } from '../../ui/NumberField'
import { Empty, Failed, Loading } from '../../ui/States'

const LIMITS: Record<string, string> = {
  feed: 'the feed of the data',
  torque: 'the spindle’s torque',
  power: 'the spindle’s power',
  machine: 'the machine’s feed',
  chip: 'the chip the edge takes',
}

const WORTH_SAYING = 0.05 // of the spindle's curve

// One hole on every machine of the shop: which ways there are, what holds each back, what it costs.
export function HoleMethods() {
  const [params, setParams] = useSearchParams()
  const library = useLibrary()
  const materials = (library.data?.items ?? []).filter((item) => item.kind === 'materials')
  const asked = {
    diameter_mm: Number(params.get('diameter_mm') ?? 20),
    depth_mm: Number(params.get('depth_mm') ?? 26),
    count: Number(params.get('count') ?? 3),
    through: params.get('through') !== 'false',
    material:
      params.get('material') ??
      (materials.some((item) => item.key === 'c45') ? 'c45' : (materials[0]?.key ?? '')),
    machines: [],
    loaded: (params.get('loaded') ?? '').split(',').filter(Boolean),
  }
  const { data, error } = useQuery({
    queryKey: ['hole-methods', asked],
    meta: { shown: true },
    enabled: asked.material !== '',
    placeholderData: keepPreviousData,
    retry: false,
    queryFn: () => ask(api.POST('/api/hole-methods', { body: asked })),
  })
  const set = (name: string, value: string | number | null) => {
    const next = new URLSearchParams(params)
    if (value === null) next.delete(name)
    else next.set(name, String(value))
    setParams(next, { replace: true })
  }
  if (library.error) return <Failed error={library.error} again={() => void library.refetch()} />
  if (!library.data) return <Loading what="the library" />
  return (
    <div className="mx-auto max-w-[1180px] px-6 py-4">
      <p className="text-small text-ink-2 print:hidden">
        <Link className="link" to="/bench">
          Bench
        </Link>{' '}
        / Holes
      </p>
      <h1 className="border-b border-ink pb-1.5 text-big font-semibold">
        Which way to make a hole
      </h1>
      <div className="flex flex-wrap items-center gap-x-6 gap-y-2 py-3">
        <NumberField
          label="Diameter"
          quantity="size"
          drill
          value={asked.diameter_mm}
          onCommit={(value) => set('diameter_mm', value)}
        />
        <NumberField
          label="Depth"
          quantity="size"
          value={asked.depth_mm}
          onCommit={(value) => set('depth_mm', value)}
        />
        <NumberField
          label="Holes"
          quantity="count"
          value={asked.count}
          onCommit={(value) => set('count', value === null ? null : Math.round(value))}
        />
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            checked={asked.through}
            onChange={(event) => set('through', event.target.checked ? 'true' : 'false')}
          />{' '}
          through
        </label>
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
      </div>
      {error ? (
        <p role="alert" className="border-l-4 border-red bg-red-wash px-3 py-2 text-red-edge">
          {error.message}
        </p>
      ) : !data ? (
        <Loading what="the ways" />
      ) : data.length === 0 ? (
        <Empty title="No machines">The library has no machine to make a hole on.</Empty>
      ) : (
        data.map((each) => <OnMachine key={each.machine} ranking={each} count={asked.count} />)
      )}
      <p className="mt-4 border-t border-hair pt-2 text-small text-ink-3">
        Times hold the drilling of all holes and one tool change for each tool. A planning aid: the
        machine maker’s and the tool maker’s limits come first.
      </p>
    </div>
  )
}

function OnMachine({ ranking, count }: { ranking: Ranking; count: number }) {
  const can = ranking.methods.filter((each) => each.steps.length > 0)
  const cannot = ranking.methods.filter((each) => each.steps.length === 0)
  const slowest = Math.max(...can.map((each) => each.seconds ?? 0), 1)
  return (
    <section aria-label={ranking.name} className="mt-3">
      <h2 className="border-b border-ink-3 text-lead font-semibold">{ranking.name}</h2>
      {can.length === 0 && <p className="py-2 text-red-edge">No way of making it works here.</p>}
      {can.length > 0 && (
        <table className="w-full [&_td]:border-b [&_td]:border-hair [&_td]:py-1 [&_td]:pr-4 [&_td]:align-baseline [&_th]:pr-4 [&_th]:text-small [&_th]:text-ink-2">
          <thead>
            <tr>
              <th className="w-40">Way</th>
              <th className="w-[150px]">Time for {count}</th>
              <th>Tools</th>
              <th className="w-56">Held back by</th>
              <th className="w-24">New pockets</th>
            </tr>
          </thead>
          <tbody>
            {can.map((each, place) => (
              <tr key={each.name}>
                <td className={place === 0 ? 'font-semibold' : ''}>
                  {each.name}
                  {each.suits && (
                    <span className="block text-small font-normal text-ink-2">{each.suits}</span>
                  )}
                </td>
                <td>
                  <span className="n text-lead font-semibold">{clock(each.seconds ?? 0)}</span>
                  <svg width="130" height="6" className="block" aria-hidden>
                    <rect
                      width={(130 * (each.seconds ?? 0)) / slowest}
                      height="6"
                      className={place === 0 ? 'fill-mark' : 'fill-quiet'}
                    />
                  </svg>
                </td>
                <td>
                  {each.steps.map((step, k) => (
                    <span key={k} className="block">
                      {step.tool}{' '}
                      <span className="text-small text-ink-2">
                        {step.does}
                        {step.pitch_mm && (
                          <>
                            {' '}
                            of <Figure value={step.pitch_mm} quantity="size" trim /> a turn
                          </>
                        )}
                      </span>
                      , <Figure value={step.rpm} quantity="spindle_speed" />,{' '}
                      <Figure value={step.feed_mm_min} quantity="feed" />
                    </span>
                  ))}
                </td>
                <td>
                  {each.steps.map((step, k) => (
                    <span key={k} className="block text-small">
                      {LIMITS[step.limit] ?? step.limit}{' '}
                      <span className="text-ink-2">
                        (<Figure value={step.torque_nm} quantity="torque" bare /> of{' '}
                        <Figure value={step.torque_limit_nm} quantity="torque" />)
                      </span>
                    </span>
                  ))}
                </td>
                <td className="n">{each.pockets}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {ranking.crossing && ranking.crossing.factor > WORTH_SAYING && (
        <p className="py-1 text-small">
          {ranking.crossing.other ? (
            <>
              With less than <Figure value={ranking.crossing.torque_nm} quantity="torque" /> at that
              speed (<span className="n">{Math.round(ranking.crossing.factor * 100)} %</span> of
              this spindle’s curve) <b>{ranking.crossing.other}</b> would be quicker.
            </>
          ) : (
            <>
              With less than <Figure value={ranking.crossing.torque_nm} quantity="torque" /> no way
              would be left.
            </>
          )}
        </p>
      )}
      {cannot.length > 0 && (
        <p className="pb-1 text-small text-ink-2">
          Not here:{' '}
          {cannot.map((each, k) => (
            <span key={each.name}>
              {k > 0 && '; '}
              {each.name} (<Sentence text={each.because} values={each.values} />)
            </span>
          ))}
          .
        </p>
      )}
    </section>
  )
}
