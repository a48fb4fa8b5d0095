import { Figure, Sentence } from '../../ui/Figure'
import { Mark } from '../../ui/Mark'
import type { Hold } from './useHold'

// The six motions of a part and which bodies stop them, by what only bears.
export function Motions({ hold }: { hold: Hold }) {
  const of = (kind: string) => hold.motions.filter((each) => each.kind === kind)
  return (
    <div className="mt-2 border-t border-hair pt-2">
      <table className="w-full border-collapse text-body" aria-label="Motions">
        <tbody>
          {(['slide', 'turn'] as const).map((kind) => (
            <tr key={kind}>
              <th className="w-20 text-left align-top font-normal text-ink-2">
                {kind === 'slide' ? 'Sliding' : 'Turning'}
              </th>
              {of(kind).map((each) => (
                <td key={each.axis} className="w-[28%] pr-2 align-top">
                  <span className="n font-semibold">{each.axis}</span>{' '}
                  {each.free ? (
                    <span className="inline-flex items-center gap-1">
                      <Mark state="look" size={10} /> free
                    </span>
                  ) : (
                    <span className="text-ink-2">{shortly(each.by)}</span>
                  )}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {hold.under && (
        <p className="mt-1">
          {hold.under.seated ? (
            <>{hold.under.of} sits in its vise.</>
          ) : (
            <b className="text-red">
              Clamped, {hold.under.of} <Sentence {...hold.under.moves} />:{' '}
              <Figure value={Number(hold.under.left.value)} quantity={hold.under.left.quantity} />{' '}
              find no support.
            </b>
          )}
        </p>
      )}
    </div>
  )
}

// "dowels 1, 2, table" for dowel 1, dowel 2 and table.
export function shortly(names: string[]): string {
  const dowels = names.filter((each) => each.startsWith('dowel ')).map((each) => each.slice(6))
  const rest = names.filter((each) => !each.startsWith('dowel '))
  const words = dowels.length ? `dowel${dowels.length > 1 ? 's' : ''} ${dowels.join(', ')}` : ''
  return [words, ...rest].filter(Boolean).join(', ')
}
