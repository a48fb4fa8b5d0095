import type { Plan } from '../../api/client'
import { quietly } from '../../api/planSession'
import { Choice } from '../../ui/Choice'
import { useFrame } from '../frame'
import { PickedPlaces } from './PickedPlaces'

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
      <PickedPlaces
        label="Sharp stay those of"
        none="no place"
        picked={part?.sharp ?? []}
        without={(name) => `${name} need not stay sharp`}
        onChange={(sharp) => set(() => ({ sharp }))}
      />
    </div>
  )
}
