import { Choice } from '../../ui/Choice'
import { NumberField } from '../../ui/NumberField'
import { roundOf } from '../../ui/rounds'
import { Three, useFrame } from '../JobFrame'

const SIDES: [string, string][] = [
  ['x_low_mm', 'left'],
  ['x_high_mm', 'right'],
  ['y_low_mm', 'front'],
  ['y_high_mm', 'back'],
  ['z_low_mm', 'bottom'],
  ['z_high_mm', 'top'],
]

export function StockFields() {
  const { answer, evaluation, session } = useFrame()
  const stock = (answer.plan.stock ?? {}) as Record<string, unknown>
  const set = (fields: Record<string, unknown>) =>
    session.edit((plan) => [{ do: 'set_stock', stock: { ...plan.stock, ...fields } }])
  const size = evaluation?.part_size ?? [50, 50, 50]
  const round = (form: string) =>
    form === 'round' && !stock.round_diameter_mm
      ? { form, round_diameter_mm: Math.ceil(Math.hypot(size[0] ?? 50, size[1] ?? 50)) }
      : { form }
  return (
    <div className="flex flex-col gap-2">
      <div className="flex flex-wrap items-center gap-x-5 gap-y-2">
        <Choice
          label="Form"
          value={String(stock.form ?? 'block')}
          options={['block', 'plate', 'round'].map((each) => ({ value: each, label: each }))}
          onChange={(form) => void set(round(form)).catch(() => {})}
        />
        {stock.form === 'round' && (
          <>
            <NumberField
              label="Ø"
              value={Number(stock.round_diameter_mm)}
              quantity="length"
              onCommit={(value) => set({ round_diameter_mm: value })}
            />
            <Choice
              label="Axis"
              value={String(stock.round_axis ?? 'z')}
              options={['x', 'y', 'z'].map((each) => ({ value: each, label: each.toUpperCase() }))}
              onChange={(round_axis) => void set({ round_axis }).catch(() => {})}
            />
          </>
        )}
        <NumberField
          label="Sawn up to this much over"
          value={Number(stock.saw_tolerance_mm ?? 0)}
          quantity="length"
          onCommit={(value) => set({ saw_tolerance_mm: value ?? 0 })}
        />
        {evaluation && (
          <span className="text-ink-2">
            comes as <Three size={evaluation.stock_size} round={roundOf(answer.plan.stock)} />
          </span>
        )}
      </div>
      <fieldset className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <legend className="float-left mr-2 text-ink-2">Stands over the part:</legend>
        {SIDES.filter(
          ([name]) => stock.form !== 'round' || name.startsWith(String(stock.round_axis ?? 'z')),
        ).map(([name, words]) => (
          <NumberField
            key={name}
            label={words}
            value={Number(stock[name] ?? 0)}
            quantity="length"
            onCommit={(value) => set({ [name]: value ?? 0 })}
          />
        ))}
      </fieldset>
    </div>
  )
}
