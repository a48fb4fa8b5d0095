import { NumberField } from '../../ui/NumberField'

const HEADS = ['Length', 'Diameter', 'Modulus GPa']

// A stepped tool from its tip to the holder, a row each section.
export function Sections({
  value,
  onChange,
}: {
  value: string
  onChange: (value: string) => void
}) {
  const rows = value
    .split(',')
    .filter(Boolean)
    .map((row) => row.split(':').map(Number))
  const write = (next: number[][]) => onChange(next.map((row) => row.join(':')).join(','))
  return (
    <div>
      {rows.map((row, place) => (
        <div key={place} className="flex items-center gap-1 py-0.5">
          {HEADS.map((head, k) => (
            <NumberField
              key={head}
              label={`${head} of section ${place + 1}`}
              labelled={false}
              bare
              quantity={k < 2 ? 'size' : 'number'}
              value={row[k] ?? null}
              onCommit={(next) =>
                write(
                  rows.map((each, at) =>
                    at === place ? each.map((n, j) => (j === k ? (next ?? n) : n)) : each,
                  ),
                )
              }
            />
          ))}
          <button
            className="link text-small"
            aria-label={`take out section ${place + 1}`}
            disabled={rows.length === 1}
            onClick={() => write(rows.filter((_, at) => at !== place))}
          >
            out
          </button>
        </div>
      ))}
      <button
        className="link text-small"
        onClick={() => write([...rows, rows.at(-1) ?? [10, 10, 600]])}
      >
        Add a section
      </button>
      <p className="text-tiny text-ink-3">{HEADS.join(', ').toLowerCase()}; from the tip</p>
    </div>
  )
}
