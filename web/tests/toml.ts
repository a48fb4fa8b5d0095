// Reads the one shape display.toml has: [quantity] and lines of inline tables.
export function parse(text: string): unknown {
  const table: Record<string, Record<string, unknown>> = {}
  let section = ''
  for (const line of text.split('\n').map((each) => each.trim())) {
    if (line === '' || line.startsWith('#')) continue
    const head = /^\[(\w+)\]$/.exec(line)
    if (head) {
      section = head[1] ?? ''
      table[section] = {}
      continue
    }
    const row = /^(\w+) = \{ unit = "(.*)", per = ([\d.]+), digits = (\d+) \}$/.exec(line)
    if (!row) throw new Error(`not understood: ${line}`)
    table[section]![row[1] ?? ''] = { unit: row[2], per: Number(row[3]), digits: Number(row[4]) }
  }
  return table
}
