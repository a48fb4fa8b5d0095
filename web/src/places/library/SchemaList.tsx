import { NumberField } from '../../ui/NumberField'
import { blank, branch, type Data, kindOf, kindsOf, resolve, type Schema } from './schema'
import { TextOrDay } from './TextOrDay'

type Props = {
  name: string
  schema: Schema
  root: Schema
  value: unknown[]
  onChange: (value: unknown[]) => void
  disabled: boolean
  form: (schema: Schema, row: Data, k: number, set: (next: Data) => void) => React.ReactNode
}

const MOST_IN_A_LINE = 9 // fields: with more a table is wider than its frame

// Several of a record's parts: words in a line, plain records in a table, larger ones each with
// their own form.
export function SchemaList({ form, ...props }: Props) {
  const { schema, root, value, onChange, disabled } = props
  const { label } = kindOf(props.name)
  const items = resolve(schema.items ?? {}, root)
  const kinds = kindsOf(items, root)
  if (!kinds[0]?.properties) return <Words {...props} label={label} items={items} />
  const fields = Object.entries(kinds[0].properties).map(
    ([inner, each]) => [inner, resolve(each, root)] as const,
  )
  const large =
    kinds.length > 1 ||
    fields.length > MOST_IN_A_LINE ||
    fields.some(([, each]) => each.type === 'array' || each.properties)
  const least = schema.minItems ?? 0
  const takeOut =
    disabled || value.length <= least
      ? undefined
      : (k: number) => onChange(value.filter((_, i) => i !== k))
  const set = (k: number, next: unknown) => onChange(value.map((old, i) => (i === k ? next : old)))
  const add = (kind: Schema) =>
    onChange([...value, large ? blank(kind, root) : (value.at(-1) ?? blank(kind, root))])
  return (
    <section aria-label={label} className="col-span-2 border-t border-hair pt-1.5">
      <h2 className="mb-1 font-semibold">{label}</h2>
      {large ? (
        value.map((row, k) => (
          <div key={k} className="mb-2 border-l-2 border-hair-strong pl-3">
            {form(branch(items, row as Data, root), row as Data, k, (next) => set(k, next))}
            {takeOut && (
              <button className="link text-small" onClick={() => takeOut(k)}>
                Take out {String((row as Data).id || (row as Data).name || `line ${k + 1}`)}
              </button>
            )}
          </div>
        ))
      ) : (
        <Table {...props} fields={fields} set={set} takeOut={takeOut} />
      )}
      {!disabled && (schema.maxItems === undefined || value.length < schema.maxItems) && (
        <span className="flex gap-4">
          {kinds.map((kind) => (
            <button
              key={kind.properties?.kind?.const ?? ''}
              className="link text-small"
              onClick={() => add(kind)}
            >
              Add a {large ? singular(label) : 'line'}
              {kinds.length > 1 && `: ${kind.properties?.kind?.const}`}
            </button>
          ))}
        </span>
      )}
    </section>
  )
}

function singular(label: string): string {
  return label.toLowerCase().replace(/ies$/, 'y').replace(/s$/, '')
}

type WordsProps = Omit<Props, 'form'> & { label: string; items: Schema }

function Words({ label, items, value, onChange, disabled }: WordsProps) {
  const read = (text: string) =>
    text
      .split(',')
      .map((each) => each.trim())
      .filter(Boolean)
      .map((each) => (items.type === 'string' ? each : Number(each)))
  return (
    <div className="col-span-2 flex items-center gap-2">
      <span className="w-44 shrink-0 text-ink-2">{label}</span>
      <input
        aria-label={label}
        className="field n w-96"
        disabled={disabled}
        defaultValue={value.join(', ')}
        onBlur={(event) => onChange(read(event.target.value))}
      />
    </div>
  )
}

type TableProps = Omit<Props, 'form' | 'onChange'> & {
  fields: (readonly [string, Schema])[]
  set: (k: number, next: unknown) => void
  takeOut?: (k: number) => void
}

function Table({ fields, value, disabled, set, takeOut }: TableProps) {
  if (value.length === 0) return null
  return (
    <table>
      <thead className="text-small text-ink-2">
        <tr>
          {fields.map(([inner]) => (
            <th key={inner} className="pr-3">
              {kindOf(inner).label}
            </th>
          ))}
          <th>
            <span className="sr-only">Take it out</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {value.map((row, k) => (
          <tr key={k}>
            {fields.map(([inner, each]) => (
              <td key={inner} className="py-0.5 pr-3">
                <Cell
                  name={inner}
                  schema={each}
                  label={`${kindOf(inner).label} ${k + 1}`}
                  value={(row as Data)[inner]}
                  disabled={disabled}
                  onChange={(next) => set(k, { ...(row as Data), [inner]: next })}
                />
              </td>
            ))}
            <td>
              {takeOut && (
                <button
                  className="link text-small"
                  aria-label={`take out line ${k + 1}`}
                  onClick={() => takeOut(k)}
                >
                  ×
                </button>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

type CellProps = {
  name: string
  schema: Schema
  label: string
  value: unknown
  disabled: boolean
  onChange: (value: unknown) => void
}

function Cell({ name, schema, label, value, disabled, onChange }: CellProps) {
  if (schema.type === 'number' || schema.type === 'integer')
    return (
      <NumberField
        label={label}
        labelled={false}
        wide
        disabled={disabled}
        quantity={kindOf(name).quantity}
        value={(value as number | null) ?? null}
        onCommit={onChange}
      />
    )
  if (schema.enum)
    return (
      <select
        aria-label={label}
        className="field"
        disabled={disabled}
        value={String(value ?? '')}
        onChange={(event) => onChange(event.target.value)}
      >
        {schema.enum.map((each) => (
          <option key={each}>{each}</option>
        ))}
      </select>
    )
  return (
    <TextOrDay
      schema={schema}
      label={label}
      className="field w-32"
      value={value}
      disabled={disabled}
      onChange={onChange}
    />
  )
}
