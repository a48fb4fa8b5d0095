import type { Schema } from './schema'

type Props = {
  schema: Schema
  label: string
  className: string
  value: unknown
  disabled: boolean
  onChange: (value: unknown) => void
}

// A text, or a day where the schema says so; an empty day is none.
export function TextOrDay({ schema, label, className, value, disabled, onChange }: Props) {
  const day = schema.format === 'date'
  return (
    <input
      type={day ? 'date' : 'text'}
      aria-label={label}
      className={className}
      disabled={disabled}
      value={String(value ?? '')}
      onChange={(event) => onChange(day ? event.target.value || null : event.target.value)}
    />
  )
}
