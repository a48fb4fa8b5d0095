import type { Plan } from '../../api/client'
import { quietly } from '../../api/planSession'
import { Choice } from '../../ui/Choice'
import { useFrame } from '../frame'
import { placesOf } from './asked'
import type { Feature } from './feature'

type Part = NonNullable<Plan['part']>

const BECOMES: { value: NonNullable<Part['edges']>; label: string }[] = [
  { value: '', label: 'what the shop does' },
  { value: 'hand', label: 'broken by hand' },
  { value: 'machine', label: 'broken on the machine' },
  { value: 'leave', label: 'left as they are' },
]

// What becomes of edges that no operation breaks, and whose edges have to stay sharp.
export function Edges() {
  const { answer, session } = useFrame()
  const part = answer.plan.part
  const sharp = part?.sharp ?? []
  const places = placesOf(answer.features as Feature[])
  const set = (next: (part: Part) => Partial<Part>) =>
    void quietly(
      session.edit((plan) => [
        { do: 'set_part', part: { ...plan.part, ...next(plan.part ?? {}) } as Part },
      ]),
    )
  return (
    <div className="my-2 flex flex-wrap items-center gap-x-5 gap-y-1.5">
      <Choice
        label="Edges nobody breaks are"
        value={part?.edges ?? ''}
        options={BECOMES}
        onChange={(edges) => set(() => ({ edges }))}
      />
      <span className="inline-flex flex-wrap items-center gap-1.5">
        <Choice
          label="Sharp stay those of"
          value=""
          options={[
            { value: '', label: sharp.length > 0 ? 'one more place' : 'no place' },
            ...places.filter((each) => !sharp.includes(each.value)),
          ]}
          onChange={(id) => id && set((now) => ({ sharp: [...(now.sharp ?? []), id] }))}
        />
        {sharp.map((id) => {
          const name = places.find((each) => each.value === id)?.label ?? 'a place that is gone'
          return (
            <span key={id} className="border border-hair-strong px-1.5">
              {name}{' '}
              <button
                className="link text-small"
                aria-label={`${name} need not stay sharp`}
                onClick={() => set((now) => ({ sharp: now.sharp?.filter((each) => each !== id) }))}
              >
                ×
              </button>
            </span>
          )
        })}
      </span>
    </div>
  )
}
