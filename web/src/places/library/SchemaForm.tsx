import type { Item } from '../../api/client'
import { NumberField } from '../../ui/NumberField'
import { type Data, kindOf, resolve, type Schema } from './schema'
import { SchemaList } from './SchemaList'
import { TextOrDay } from './TextOrDay'

type Props = {
  schema: Schema
  root: Schema
  data: Data
  onChange: (data: Data) => void
  bad?: string
  skip?: Set<string>
  all: Item[]
  path?: string
  disabled: boolean
}

// The form of a record from its schema; units come from the names, so every field takes every unit.
export function SchemaForm({
  schema,
  root,
  data,
  onChange,
  bad,
  skip,
  all,
  path = '',
  disabled,
}: Props) {
  const fields = Object.entries(schema.properties ?? {}).filter(
    ([name, each]) => !skip?.has(name) && each.const === undefined,
  )
  const shown = (of: typeof fields) => (
    <div className="grid grid-cols-2 gap-x-6 gap-y-2">
      {of.map(([name, each]) => (
        <Field
          key={name}
          name={name}
          schema={resolve(each, root)}
          root={root}
          value={data[name]}
          onChange={(value) => onChange({ ...data, [name]: value })}
          bad={bad}
          all={all}
          path={path ? `${path}.${name}` : name}
          disabled={disabled}
        />
      ))}
    </div>
  )
  if (!schema.groups) return shown(fields)
  return schema.groups.map(({ heading, fields: names }) => (
    <section key={heading} aria-label={heading} className="mb-4 border-t border-hair-strong pt-1.5">
      <h2 className="mb-1.5 font-semibold">{heading}</h2>
      {shown(names.flatMap((name) => fields.filter(([each]) => each === name)))}
    </section>
  ))
}

const REFERS: Record<string, string> = {
  tool: 'tools',
  holder: 'holders',
  first_machine: 'machines',
}
const LONGEST_REMARK = 120
type FieldProps = {
  name: string
  schema: Schema
  root: Schema
  value: unknown
  onChange: (value: unknown) => void
  bad?: string
  all: Item[]
  path: string
  disabled: boolean
}

function Field({ name, schema, root, value, onChange, bad, all, path, disabled }: FieldProps) {
  const { label, quantity, after } = kindOf(name)
  const wrong = bad === path
  const line = (inner: React.ReactNode) => (
    <div className="flex min-h-7 items-center gap-2" title={schema.description}>
      <span className="w-44 shrink-0 leading-tight text-ink-2">
        {label}
        {schema.description && schema.description.length < LONGEST_REMARK && (
          <span className="block text-tiny text-ink-3">{schema.description}</span>
        )}
      </span>
      {inner} {after && <span className="text-small text-ink-2">{after}</span>}
    </div>
  )
  if (schema.type === 'number' || schema.type === 'integer')
    return line(
      <NumberField
        label={label}
        labelled={false}
        wide
        bad={wrong}
        disabled={disabled}
        quantity={quantity}
        value={(value as number | null) ?? null}
        empty="–"
        onCommit={(next) =>
          onChange(schema.type === 'integer' && next !== null ? Math.round(next) : next)
        }
      />,
    )
  if (schema.type === 'boolean')
    return line(
      <input
        type="checkbox"
        aria-label={label}
        disabled={disabled}
        checked={!!value}
        onChange={(event) => onChange(event.target.checked)}
      />,
    )
  if (schema.enum || REFERS[name]) {
    const options = schema.enum
      ? schema.enum.map((each) => [each, each.replaceAll('_', ' ')])
      : [
          ...(name === 'first_machine' ? [['', 'the first that fits']] : []),
          ...all
            .filter((item) => item.kind === REFERS[name] && !item.problem)
            .map((item) => [item.key, String(item.data.name)]),
        ]
    return line(
      <select
        aria-label={label}
        className="field"
        disabled={disabled}
        value={String(value ?? '')}
        onChange={(event) => onChange(event.target.value)}
      >
        {value === '' && !options.some(([key]) => key === '') && <option value="">–</option>}
        {options.map(([key, words]) => (
          <option key={key} value={key}>
            {words}
          </option>
        ))}
      </select>,
    )
  }
  if (schema.type === 'string')
    return line(
      <TextOrDay
        schema={schema}
        label={label}
        className={`field w-64 ${wrong ? 'border-b-2 border-b-red!' : ''}`}
        value={value}
        disabled={disabled}
        onChange={onChange}
      />,
    )
  if (schema.type === 'array' && schema.items)
    return (
      <SchemaList
        name={name}
        schema={schema}
        root={root}
        value={(value as unknown[] | undefined) ?? []}
        onChange={onChange}
        disabled={disabled}
        form={(of, row, k, set) => (
          <SchemaForm
            schema={of}
            root={root}
            data={row}
            onChange={set}
            bad={bad}
            all={all}
            path={`${path}.${k}`}
            disabled={disabled}
          />
        )}
      />
    )
  if (schema.properties)
    return (
      <fieldset className="col-span-2 border-t border-hair pt-1">
        <legend className="sr-only">{label}</legend>
        <div className="flex flex-wrap items-center gap-4">
          <span className="w-44 shrink-0 text-ink-2">{label}</span>
          {Object.entries(schema.properties).map(([inner, each]) => {
            const known = kindOf(inner)
            const within = resolve(each, root)
            return within.type === 'number' ? (
              <NumberField
                key={inner}
                label={known.label}
                disabled={disabled}
                quantity={quantity === 'number' ? known.quantity : quantity}
                value={((value as Data | undefined)?.[inner] as number) ?? null}
                onCommit={(next) => onChange({ ...(value as Data), [inner]: next })}
              />
            ) : null
          })}
        </div>
      </fieldset>
    )
  return null
}
