import type { OperationResult } from '../../api/client'
import { Figure } from '../../ui/Figure'

type WorkedProps = { op: OperationResult; why: string | null; onWhy: (figure: string) => void }

// What would be worked out on paper for this kind of cut, each figure with its why.
export function Worked({ op, why, onWhy }: WorkedProps) {
  if (op.worked.length === 0) return null
  return (
    <p className="grid grid-cols-[76px_1fr] items-baseline border-t border-hair py-1">
      <span className="font-semibold">Worked</span>
      <span className="flex flex-wrap items-baseline gap-x-4">
        {op.worked.map((each) => (
          <span key={each.figure}>
            {each.name} <Figure value={each.value} quantity={each.quantity} />{' '}
            <button
              className="link text-small"
              aria-label={`why ${each.name}`}
              aria-expanded={why === each.figure}
              onClick={() => onWhy(each.figure)}
            >
              {why === each.figure ? 'hide' : 'why'}
            </button>
          </span>
        ))}
      </span>
    </p>
  )
}

export function PassByPass({ table }: { table: NonNullable<OperationResult['table']> }) {
  return (
    <div className="grid grid-cols-[76px_1fr] border-t border-hair py-1">
      <span className="font-semibold">By pass</span>
      <table className="w-max text-small [&_td]:px-3 [&_td]:text-right [&_th]:px-3 [&_th]:text-right">
        <thead>
          <tr>
            {table.columns.map((column) => (
              <th key={column.name} scope="col" className="font-normal text-ink-2">
                {column.name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {table.rows.map((row, place) => (
            <tr key={place} className="border-t border-hair">
              {row.map((value, at) => (
                <td key={at}>
                  <Figure value={value} quantity={table.columns[at]?.quantity ?? ''} bare />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}
