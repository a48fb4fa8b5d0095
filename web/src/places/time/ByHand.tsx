import type { components } from '../../api/schema'
import type { Evaluation, SetupResult } from '../../api/client'
import { NumberField } from '../../ui/NumberField'
import { WhyOf } from '../../ui/WhyOf'
import { useFrame } from '../frame'
import { hours, seconds } from './goes'

type Found = components['schemas']['ByHandOut']

// What somebody does at each setup: parts put in, sizes, edges; how many machines like it one keeps running.
export function ByHand({ found, evaluation }: { found: Found[]; evaluation: Evaluation }) {
  return (
    <section aria-label="By hand at each setup" className="mt-5">
      <h2 className="mb-1.5 font-semibold">By hand at each setup</h2>
      <table className="w-full border-t border-hair-strong">
        <thead className="text-small text-ink-2">
          <tr className="[&>th]:border-b [&>th]:border-hair [&>th]:py-1 [&>th]:pr-3 [&>th]:text-left [&>th]:font-normal">
            <th>Setup</th>
            <th>A part in and out</th>
            <th>By the watch</th>
            <th>While it runs</th>
            <th>One person</th>
          </tr>
        </thead>
        <tbody>
          {found.flatMap((each) => {
            const setup = evaluation.setups.find(({ id }) => id === each.setup)
            return setup
              ? setup.stations.map((station, place) => (
                  <tr
                    key={station.id}
                    className="align-baseline [&>td]:border-b [&>td]:border-hair [&>td]:py-1 [&>td]:pr-3"
                  >
                    <td className="whitespace-nowrap">
                      {place === 0 && <b>{setup.number}</b>}{' '}
                      {setup.stations.length > 1 && (
                        <span className="text-ink-2">{station.up}</span>
                      )}
                    </td>
                    <PutIn setup={setup} station={station.id} evaluation={evaluation} />
                    <td className="text-small text-ink-2">{place === 0 && <Runs of={each} />}</td>
                    <td className="text-small text-ink-2">{place === 0 && <One of={each} />}</td>
                  </tr>
                ))
              : []
          })}
        </tbody>
      </table>
    </section>
  )
}

// What putting a part in takes at a station, with its elements; typed where somebody timed it.
function PutIn({
  setup,
  station,
  evaluation,
}: {
  setup: SetupResult
  station: string
  evaluation: Evaluation
}) {
  const { answer, session } = useFrame()
  const figure = `${setup.stations.length > 1 ? station : setup.id}.put_in`
  const known = evaluation.figures[figure]
  const planned = answer.plan.setups
    ?.flatMap((each) => each.stations)
    .find(({ id }) => id === station)
  if (!known) return <td colSpan={2}>handed over by the machine</td>
  return (
    <>
      <td className="n">
        <WhyOf figure={figure} evaluation={evaluation} words="A part in and out">
          {seconds(Number(known[0]))}
        </WhyOf>
      </td>
      <td>
        <NumberField
          label={`By the watch, setup ${setup.number}`}
          labelled={false}
          value={planned?.load_s ?? null}
          quantity="seconds"
          empty="–"
          onCommit={(load_s) =>
            session.edit([{ do: 'change', on: `station:${station}`, fields: { load_s } }])
          }
        />
      </td>
    </>
  )
}

function Runs({ of }: { of: Found }) {
  return (
    <ul>
      {of.sizes > 0 && (
        <li>
          <N>{of.sizes}</N> {of.sizes === 1 ? 'size' : 'sizes'} of the first part
          {of.sizes_later > 0 && (
            <>
              , <N>{of.sizes_later}</N> later
            </>
          )}
        </li>
      )}
      {of.edges >= 0.05 && (
        <li>
          <N>{of.edges.toFixed(1)}</N> edges worn out
        </li>
      )}
      {of.edges_unknown > 0 && (
        <li>
          not known how long <N>{of.edges_unknown}</N> {of.edges_unknown === 1 ? 'tool' : 'tools'}{' '}
          last
        </li>
      )}
      {of.last_load !== null && (
        <li>
          the last load has <N>{of.last_load}</N>
          {of.skipped_s > 0 ? (
            <>
              : <N>{seconds(of.skipped_s)}</N> less
            </>
          ) : (
            <>
              {' '}
              and runs whole: <N>{seconds(of.would_skip_s)}</N> for empty places
            </>
          )}
        </li>
      )}
      {of.holdings_there > 0 && <li>what holds it stands there from before</li>}
    </ul>
  )
}

function One({ of }: { of: Found }) {
  if (of.machines === null) return <>never wanted</>
  return (
    <>
      <N>{seconds(of.hand_s)}</N> of <N>{hours(of.each_s)}</N>
      {of.machines > 1 ? (
        <>
          : keeps <N>{of.machines}</N> like it running
        </>
      ) : (
        ': stays at it'
      )}
    </>
  )
}

const N = ({ children }: { children: React.ReactNode }) => <span className="n">{children}</span>
