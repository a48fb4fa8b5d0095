import { useQuery } from '@tanstack/react-query'
import { api, ask, type PlanAnswer, type SetupResult } from '../../api/client'
import type { components } from '../../api/schema'
import { Figure } from '../../ui/Figure'

type Answer = components['schemas']['LastsOut']
const MOST_PARTS = 100_000
const SURE = 0.9999

// How likely a batch runs without a slip, and what that hangs on; nothing while nobody knows.
export function Lasts({
  answer,
  station,
  whole,
}: {
  answer: PlanAnswer
  station: string
  whole: SetupResult
}) {
  const { data, error } = useQuery({
    queryKey: ['lasts', answer.id, answer.revision, station],
    placeholderData: (before) => before,
    enabled: station !== '',
    queryFn: () =>
      ask(
        api.GET('/api/plans/{id}/stations/{station}/lasts', {
          params: { path: { id: answer.id, station } },
        }),
      ) as Promise<Answer | null>,
  })
  if (error)
    return (
      <p role="alert" className="border-b border-hair px-4 py-2 text-small text-ink-2">
        {error.message}
      </p>
    )
  const op = data && whole.operations.find((each) => each.id === data.operation)
  if (!data || !op) return null
  return (
    <section className="border-b border-hair px-4 py-2 text-body" aria-label="What breaks first">
      <h3 className="font-semibold">What breaks first</h3>
      <p>
        Operation <span className="n">{op.number}</span>
        {data.of && ` (${data.of})`}, stood <Figure value={data.factor} quantity="factor" /> at its
        worst, <Figure value={data.middle} quantity="factor" /> in the middle.{' '}
        <b>{parts(data.parts)}</b> run without a slip <b>{chance(data.runs)}</b>
        {data.sure_parts === 0
          ? ', not even one surely.'
          : `; ${data.sure_parts >= MOST_PARTS ? `over ${parts(MOST_PARTS)}` : parts(data.sure_parts)} at 99 in 100.`}
      </p>
      <ul className="mt-1 grid gap-0.5" aria-label="What it hangs on">
        {data.hangs_on.map((each) => (
          <li
            key={each.name}
            className="grid grid-cols-[150px_52px_1fr_40px] items-center gap-2 text-small"
            title={`from ${each.source}${each.batch ? ', the same for a batch' : ', from part to part'}`}
          >
            <span>{each.name}</span>
            <span className="n text-ink-2">±{percent(each.share)}</span>
            <span className="h-2 bg-hair">
              <span
                className="block h-2 bg-mark"
                style={{ width: `${(100 * each.makes).toFixed(1)}%` }}
              />
            </span>
            <span className="n text-right">{percent(each.makes)}</span>
          </li>
        ))}
      </ul>
      <p className="mt-1 text-small text-ink-2">
        An aid: spreads are estimates of practice, each one standard deviation. Torque is checked
        after the first part and{' '}
        {data.sure_parts > 0 && data.sure_parts < data.parts
          ? `every ${parts(data.sure_parts)}.`
          : 'as the shop’s rules say.'}
      </p>
    </section>
  )
}

const percent = (share: number) => `${(100 * share).toFixed(share < 0.1 ? 1 : 0)} %`
const parts = (count: number) => (count === 1 ? '1 part' : `${count.toLocaleString('en')} parts`)
const chance = (share: number) =>
  share > SURE ? 'nearly always' : share < 1 - SURE ? 'hardly ever' : percentOf(share)
const percentOf = (share: number) => `in ${(100 * share).toFixed(share > 0.99 ? 2 : 1)} of 100`
