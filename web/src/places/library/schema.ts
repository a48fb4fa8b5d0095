// What a record's schema says of its fields: what they are called, measured in, and hold at first.
export type Schema = {
  type?: string
  format?: string
  title?: string
  description?: string
  properties?: Record<string, Schema>
  required?: string[]
  default?: unknown
  items?: Schema
  enum?: string[]
  const?: string
  anyOf?: Schema[]
  $ref?: string
  $defs?: Record<string, Schema>
  prefixItems?: Schema[]
  minItems?: number
  maxItems?: number
  groups?: { heading: string; fields: string[] }[]
  oneOf?: Schema[]
}
export type Data = Record<string, unknown>

// The schemas of the kinds a record may be of; of one kind, itself.
export function kindsOf(schema: Schema, root: Schema): Schema[] {
  return schema.oneOf?.map((each) => resolve(each, root)) ?? [schema]
}

// Of a table whose records are told apart by their kind, the schema of this one.
export function branch(schema: Schema, data: Data, root: Schema = schema): Schema {
  const kinds = kindsOf(schema, root)
  return kinds.find((each) => each.properties?.kind?.const === data.kind) ?? kinds[0]!
}

export function resolve(schema: Schema, root: Schema): Schema {
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

// A new record: what has a usual value has it, what must be given is open.
export function blank(schema: Schema, root: Schema): Data {
  return Object.fromEntries(
    Object.entries(schema.properties ?? {}).map(([name, given]) => {
      const field = resolve(given, root)
      if (field.const !== undefined) return [name, field.const]
      if (given.default !== undefined) return [name, given.default]
      if (field.type === 'array')
        return [name, field.minItems ? [blank(resolve(field.items ?? {}, root), root)] : []]
      if (field.properties) return [name, blank(field, root)]
      return [name, field.enum?.[0] ?? (field.type === 'string' ? '' : null)]
    }),
  )
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
  ['_gpa', 'number', 'GPa'],
  ['_kpa', 'pull', 'kPa'],
  ['_deg_s', 'number', '°/s'],
  ['_n', 'force', ''],
  ['_s', 'number', 's'],
  ['_min', 'number', 'min'],
  ['rpm', 'spindle_speed', ''],
]

export function kindOf(name: string): { label: string; quantity: string; after: string } {
  const found = SUFFIXES.find(([suffix]) => name.endsWith(suffix))
  const bare = found && found[0].startsWith('_') ? name.slice(0, -found[0].length) : name
  const words = bare.replaceAll('_', ' ')
  return {
    label: words.charAt(0).toUpperCase() + words.slice(1),
    quantity: found?.[1] ?? 'number',
    after: found?.[2] ?? '',
  }
}
