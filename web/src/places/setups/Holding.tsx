import type { PlannedStation, StationResult } from '../../api/client'
import { quietly } from '../../api/planSession'
import { Choice } from '../../ui/Choice'
import { NumberField } from '../../ui/NumberField'
import { TextField } from '../../ui/TextField'
import { useHolding, valueAt } from './forms'

type Props = {
  planned: PlannedStation
  station: StationResult
  change: (fields: Record<string, unknown>) => Promise<unknown>
  hold: (item: string) => void
}

// What holds the part, of what goes on the machine, and how.
export function Holding({ planned, station, change, hold }: Props) {
  const form = useHolding(planned.holding?.kind)
  const unasked = station.held?.unasked.map((name) => `holding.${name}`) ?? []
  return (
    <>
      <Choice
        label="Held in"
        labelled={false}
        value={station.held?.item ?? ''}
        options={[
          { value: '', label: 'nothing yet' },
          ...station.takes.map(({ key, name }) => ({ value: key, label: name })),
        ]}
        onChange={hold}
      />
      {planned.holding && (
        <>
          {form.picked.map((spec) => (
            <Choice
              key={spec.name}
              label={spec.label}
              value={String(valueAt(planned, spec.name))}
              options={spec.options}
              onChange={(value) => void quietly(change({ [spec.name]: value }))}
            />
          ))}
          {form.typed
            .filter(({ name }) => !unasked.includes(name))
            .map((spec) => (
              <NumberField
                key={spec.name}
                label={spec.label}
                quantity={spec.quantity}
                value={(valueAt(planned, spec.name) as number | null | undefined) ?? null}
                empty={spec.empty || undefined}
                onCommit={(value) => change({ [spec.name]: value })}
              />
            ))}
          <TextField
            label="Because"
            value={planned.holding.reason ?? ''}
            placeholder="why it is held like this"
            wide="w-48"
            max={200}
            onCommit={(reason) => change({ 'holding.reason': reason })}
          />
        </>
      )}
    </>
  )
}
