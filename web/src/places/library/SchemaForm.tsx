import type { Item } from '../../api/client'
import { NumberField } from '../../ui/NumberField'

export type Schema = {
  type?: string
  title?: string
  description?: string
  properties?: Record<string, Schema>
  items?: Schema
  enum?: string[]
  const?: string
  anyOf?: Schema[]
  $ref?: string
  $defs?: Record<string, Schema>
  prefixItems?: Schema[]
  maxItems?: number
  groups?: { heading: string; fields: string[] }[]
  oneOf?: Schema[]
}
type Data = Record<string, unknown>
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

// Of a table whose records are told apart by their kind, the schema of this one.
export function branch(table: Schema, data: Data): Schema {
  const kinds = table.oneOf?.map((each) => resolve(each, table)) ?? []
  return kinds.find((each) => each.properties?.kind?.const === data.kind) ?? kinds[0] ?? table
}

function resolve(schema: Schema, root: Schema): Schema {
  if (schema.$ref)
    return {
      ...resolve(root.$defs?.[schema.$ref.split('/').pop() ?? ''] ?? {}, root),
      ...(schema.description ? { description: schema.description } : {}),
    }
  const real = schema.anyOf?.find((each) => each.type !== 'null')
  return real
    ? { ...resolve(real, root), ...(schema.description ? { description: schema.description } : {}) }
    : schema
}

const SUFFIXES: [string, string, string][] = [
  ['_mm_min', 'feed', ''],
  ['_mm', 'size', ''],
  ['_deg', 'angle', ''],
  ['_nm', 'torque', ''],
  ['_kw', 'power', ''],
  ['_kg', 'mass', ''],
  ['_n_mm2', 'number', 'N/mm²'],
  ['_um_n', 'number', 'µm/N'],
  ['_kg_dm3', 'number', 'kg/dm³'],
  ['_deg_s', 'number', '°/s'],
  ['_n', 'force', ''],
  ['_s', 'number', 's'],
  ['_min', 'number', 'min'],
  ['rpm', 'spindle_speed', ''],
]

function kindOf(name: string): { label: string; quantity: string; after: string } {
  const found = SUFFIXES.find(([suffix]) => name.endsWith(suffix))
  const bare = found && found[0].startsWith('_') ? name.slice(0, -found[0].length) : name
  const words = bare.replaceAll('_', ' ')
  return {
    label: words.charAt(0).toUpperCase() + words.slice(1),
    quantity: found?.[1] ?? 'number',
    after: found?.[2] ?? '',
  }
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
      <input
        aria-label={label}
        className={`field w-64 ${wrong ? 'border-b-2 border-b-red!' : ''}`}
        disabled={disabled}
        value={String(value ?? '')}
        onChange={(event) => onChange(event.target.value)}
      />,
    )
  if (schema.type === 'array' && schema.items)
    return (
      <List
        name={name}
        schema={schema}
        root={root}
        value={(value as unknown[]) ?? []}
        onChange={onChange}
        bad={bad}
        all={all}
        path={path}
        disabled={disabled}
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

function List({
  name,
  schema,
  root,
  value,
  onChange,
  bad,
  all,
  path,
  disabled,
}: Omit<FieldProps, 'value'> & { value: unknown[] }) {
  const { label } = kindOf(name)
  const items = resolve(schema.items ?? {}, root)
  const fields = Object.entries(items.properties ?? {}).map(
    ([inner, each]) => [inner, resolve(each, root)] as const,
  )
  const set = (k: number, next: unknown) => onChange(value.map((old, i) => (i === k ? next : old)))
  if (fields.length === 0) {
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
  const nested = fields.some(([, each]) => each.type === 'array')
  return (
    <section className="col-span-2 border-t border-hair pt-1.5">
      <h2 className="mb-1 font-semibold">{label}</h2>
      {nested ? (
        value.map((row, k) => (
          <div key={k} className="mb-2 border-l-2 border-hair-strong pl-3">
            <SchemaForm
              schema={items}
              root={root}
              data={row as Data}
              onChange={(next) => set(k, next)}
              bad={bad}
              all={all}
              path={`${path}.${k}`}
              disabled={disabled}
            />
          </div>
        ))
      ) : (
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
                  <td key={inner} className="pr-3 py-0.5">
                    {each.type === 'number' ? (
                      <NumberField
                        label={`${kindOf(inner).label} ${k + 1}`}
                        labelled={false}
                        wide
                        disabled={disabled}
                        quantity={kindOf(inner).quantity}
                        value={(row as Data)[inner] as number}
                        onCommit={(next) => set(k, { ...(row as Data), [inner]: next })}
                      />
                    ) : (
                      <input
                        aria-label={`${kindOf(inner).label} ${k + 1}`}
                        className="field w-24"
                        disabled={disabled}
                        value={String((row as Data)[inner] ?? '')}
                        onChange={(event) =>
                          set(k, { ...(row as Data), [inner]: event.target.value })
                        }
                      />
                    )}
                  </td>
                ))}
                <td>
                  {!disabled && value.length > 1 && (
                    <button
                      className="link text-small"
                      aria-label={`take out line ${k + 1}`}
                      onClick={() => onChange(value.filter((_, i) => i !== k))}
                    >
                      ×
                    </button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {!disabled && value.length > 0 && (
        <button
          className="link text-small"
          onClick={() => onChange([...value, structuredClone(value[value.length - 1])])}
        >
          Add a line
        </button>
      )}
    </section>
  )
}
