import { useReview } from '../../api/hooks'
import { NumberField } from '../../ui/NumberField'
import { useFrame } from '../frame'

// An earlier draft of this plan beside it: one by its number, or as it was released.
export function Drafts({
  draft,
  onBeside,
}: {
  draft: number | null
  onBeside: (number: number | null) => void
}) {
  const { answer } = useFrame()
  const review = useReview(answer.id)
  const released = review.data?.releases.filter((each) => each.draft < answer.revision) ?? []
  if (answer.revision < 2) return null
  return (
    <section aria-label="Earlier drafts" className="mt-4 border-t border-hair-strong pt-2">
      <h2 className="mb-1 font-semibold">This plan as it was</h2>
      <div className="flex items-center gap-3">
        <NumberField
          label="Draft"
          value={draft}
          quantity="count"
          empty="–"
          onCommit={(number) => {
            onBeside(number === null ? null : Math.round(Number(number)))
            return Promise.resolve()
          }}
        />
        <span className="text-small text-ink-2">
          of <span className="n">{answer.revision}</span>
        </span>
      </div>
      <ul className="mt-1">
        {released.map((each) => (
          <li key={each.number}>
            <button className="link" onClick={() => onBeside(each.draft)}>
              As released, <span className="n">{each.number}</span> (draft{' '}
              <span className="n">{each.draft}</span>)
            </button>
          </li>
        ))}
      </ul>
    </section>
  )
}
