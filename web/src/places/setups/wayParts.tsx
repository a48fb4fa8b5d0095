import type { Edit, Way } from '../../api/client'
import { Figure } from '../../ui/Figure'
import { clock } from '../../ui/format'
import { useFrame } from '../frame'

export const TABLE = 'w-full text-body [&_td]:px-2 [&_td]:py-0.5 [&_th]:px-2 [&_th]:py-0.5'

// By how much a part takes longer or shorter than as planned; nothing under half a second.
export function apart(way: Way) {
  const seconds = way.one_part_s ?? 0
  return Math.abs(seconds) < 0.5
    ? ''
    : `${clock(Math.abs(seconds))} ${seconds < 0 ? 'less' : 'more'}`
}

export const Framed = ({ children }: { children: React.ReactNode }) => (
  <div
    className="my-1 overflow-x-auto border-y border-hair-strong bg-surface"
    role="group"
    aria-label="Other ways to cut it"
  >
    {children}
  </div>
)

export const Heads = ({ of }: { of: string[] }) => (
  <tr className="text-small text-ink-2">
    <th>
      <span className="sr-only">Take it out</span>
    </th>
    {of.map((name) => (
      <th key={name} scope="col" className="whitespace-nowrap">
        {name}
      </th>
    ))}
    <th>
      <span className="sr-only">Take it out</span>
    </th>
  </tr>
)

// The last cell of a way's line: what it would stop, and taking it.
export function Take({ way }: { way: Way }) {
  const { session } = useFrame()
  return (
    <td className="whitespace-nowrap text-right">
      {way.edits.length > 0 && (
        <button
          className="press"
          aria-label={`Take: ${way.name}`}
          onClick={() => session.send(way.edits as Edit[])}
        >
          Take it
        </button>
      )}
      {way.brings > 0 && (
        <span className="block text-small text-red-edge">
          brings {way.brings} new stop{way.brings > 1 ? 's' : ''}
        </span>
      )}
    </td>
  )
}

export function Share({
  value,
  limit,
  quantity,
}: {
  value: number | null | undefined
  limit: number | null | undefined
  quantity: string
}) {
  if (value === null || value === undefined || !limit)
    return <Figure value={value} quantity={quantity} />
  const share = value / limit
  return (
    <span className="flex items-center gap-2">
      <Figure value={value} quantity={quantity} />
      <svg width="44" height="8" aria-hidden className={share > 1 ? 'text-red' : 'text-ink-3'}>
        <rect x="0.5" y="1.5" width="43" height="5" className="fill-paper stroke-hair-strong" />
        <rect x="1" y="2" width={42 * Math.min(share, 1)} height="4" fill="currentColor" />
      </svg>
      <span
        className={`n whitespace-nowrap text-small ${share > 1 ? 'font-semibold text-red-edge' : 'text-ink-2'}`}
      >
        {Math.round(share * 100)} %
      </span>
    </span>
  )
}
