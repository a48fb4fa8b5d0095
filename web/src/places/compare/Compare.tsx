import { useQuery } from '@tanstack/react-query'
import { useSearchParams } from 'react-router'
import { api, ask } from '../../api/client'
import { useVariants } from '../../api/hooks'
import { AskAgain, Loading } from '../../ui/States'
import { useFrame } from '../frame'
import { Beside } from './Beside'
import { Drafts } from './Drafts'
import { beside } from './figures'
import { Otherwise } from './Otherwise'
import { Variants } from './Variants'

// The plans of a job: this one beside another, and which of them the job goes by.
export function Compare() {
  const { job, answer } = useFrame()
  const [query, setQuery] = useSearchParams()
  const variants = useVariants(job.number)
  const asked = Number(query.get('with'))
  const draft = Number(query.get('draft')) || null
  const other =
    variants.data?.find((each) => each.plan === asked && each.plan !== answer.id) ??
    beside(variants.data ?? [], answer.id)
  if (variants.error)
    return (
      <div className="px-5 py-3">
        <AskAgain again={() => void variants.refetch()} error={variants.error} />
      </div>
    )
  if (!variants.data) return <Loading what="the plans of this job" />
  return (
    <div className="grid h-full grid-cols-[330px_minmax(0,1fr)]">
      <section
        aria-label="Plans of this job"
        className="min-h-0 overflow-y-auto border-r border-hair-strong bg-paper px-5 py-3"
      >
        <Variants
          variants={variants.data}
          other={other?.plan ?? null}
          onBeside={(plan) => setQuery({ with: `${plan}` }, { replace: true })}
        />
        <Drafts
          draft={draft}
          onBeside={(number) => setQuery(number ? { draft: `${number}` } : {}, { replace: true })}
        />
      </section>
      <section aria-label="Side by side" className="min-h-0 overflow-y-auto px-5 py-3">
        {draft ? (
          <Asked
            other={answer.id}
            draft={draft}
            earlier
            names={[nameOf(variants.data, answer.id), `draft ${draft}`]}
          />
        ) : other ? (
          <Asked
            other={other.plan}
            draft={other.draft}
            names={[nameOf(variants.data, answer.id), other.name]}
          />
        ) : (
          <p className="max-w-[560px] text-ink-2">
            This job has one plan. Copy it, change the copy (another machine, another holding,
            another order), and both stand here side by side: what each takes and costs at which
            quantity, and what is otherwise.
          </p>
        )}
        <Otherwise onBeside={(plan) => setQuery({ with: `${plan}` }, { replace: true })} />
      </section>
    </div>
  )
}

const nameOf = (variants: { plan: number; name: string }[], plan: number) =>
  variants.find((each) => each.plan === plan)?.name ?? ''

// Of the other plan as it is now, or of an earlier draft.
function Asked({
  other,
  draft,
  names,
  earlier = false,
}: {
  other: number
  draft: number
  names: string[]
  earlier?: boolean
}) {
  const { answer } = useFrame()
  const { data, error, refetch } = useQuery({
    queryKey: ['compare', answer.id, answer.revision, other, draft, earlier],
    retry: !earlier,
    staleTime: Infinity,
    queryFn: () =>
      ask(
        api.GET('/api/plans/{id}/compare/{other}', {
          params: { path: { id: answer.id, other }, query: earlier ? { draft } : {} },
        }),
      ),
  })
  if (error) return <AskAgain again={() => void refetch()} error={error} />
  if (!data)
    return (
      <p role="status" className="text-ink-3">
        working out both …
      </p>
    )
  return <Beside data={data} other={earlier ? null : other} names={names} />
}
