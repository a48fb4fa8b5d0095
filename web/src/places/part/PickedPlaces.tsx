import { Choice } from '../../ui/Choice'
import { useFrame } from '../frame'
import { placesOf } from './asked'
import type { Feature } from './feature'

// Places of the part, one more at a time, each with what takes it out again.
export function PickedPlaces({
  label,
  none,
  picked,
  without,
  onChange,
}: {
  label: string
  none: string // what it means that no place is picked
  picked: string[]
  without: (name: string) => string
  onChange: (picked: string[]) => void
}) {
  const { answer } = useFrame()
  const places = placesOf(answer.features as Feature[])
  return (
    <span className="inline-flex flex-wrap items-center gap-1.5">
      <Choice
        label={label}
        value=""
        options={[
          { value: '', label: picked.length > 0 ? 'one more place' : none },
          ...places.filter((each) => !picked.includes(each.value)),
        ]}
        onChange={(id) => id && onChange([...picked, id])}
      />
      {picked.map((id) => {
        const name = places.find((each) => each.value === id)?.label ?? 'a place that is gone'
        return (
          <span key={id} className="border border-hair-strong px-1.5">
            {name}{' '}
            <button
              className="link text-small"
              aria-label={without(name)}
              onClick={() => onChange(picked.filter((each) => each !== id))}
            >
              ×
            </button>
          </span>
        )
      })}
    </span>
  )
}
