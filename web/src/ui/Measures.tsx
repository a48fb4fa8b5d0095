import { Figure } from './Figure'
import type { Shown } from './format'

// A blank as it is ordered: its form and its sizes.
export function Ordered({ of }: { of: { text: string; values: Record<string, Shown> } }) {
  return (
    <>
      {of.text
        .split(/\{(\w+)\}/)
        .map((piece, k) =>
          k % 2 === 0 ? (
            piece
          ) : (
            <Figure key={k} value={Number(of.values[piece]?.value)} quantity="size" trim bare />
          ),
        )}
    </>
  )
}

export function Three({ size, round = null }: { size: number[]; round?: number | null }) {
  if (round !== null)
    return (
      <>
        Ø<Figure value={size[(round + 1) % 3]} quantity="size" trim bare /> ×{' '}
        <Figure value={size[round]} quantity="size" trim bare />
      </>
    )
  return (
    <>
      {size.map((each, k) => (
        <span key={k}>
          {k > 0 && ' × '}
          <Figure value={each} quantity="size" trim bare />
        </span>
      ))}
    </>
  )
}
