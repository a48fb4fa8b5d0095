import type { ReactNode } from 'react'
import type { ViewName } from '../../stage/types'
import { lookedAt } from './lookedAt'

const VIEWS: [ViewName, string][] = [
  ['iso', 'Iso'],
  ['above', 'Above'],
  ['front', 'Front'],
  ['side', 'Side'],
]

// What is drawn, and the ways to look at it: the part in its holding, the table it stands on, or what
// holds it.
export function PanelHead({
  title,
  view,
  onView,
  table = true,
}: {
  title: ReactNode
  view?: ViewName
  onView?: (view: ViewName) => void
  table?: boolean
}) {
  const shown = lookedAt.use()
  const looks = (on: boolean) =>
    on ? 'border-b-2 border-ink font-semibold' : 'text-ink-2 hover:text-ink'
  return (
    <div className="flex items-center justify-between border-b border-hair px-4">
      <h2 className="text-lead font-semibold">{title}</h2>
      <div role="group" aria-label="View" className="flex gap-3">
        {VIEWS.map(([name, words]) => (
          <button
            key={name}
            aria-pressed={shown === 'part' && view === name}
            className={looks(shown === 'part' && view === name)}
            onClick={() => (lookedAt.set('part'), onView?.(name))}
          >
            {words}
          </button>
        ))}
        {table && (
          <button
            aria-pressed={shown === 'table'}
            className={looks(shown === 'table')}
            onClick={() => lookedAt.set('table')}
          >
            Load
          </button>
        )}
        <button
          aria-pressed={shown === 'hold'}
          className={looks(shown === 'hold')}
          onClick={() => lookedAt.set('hold')}
        >
          Hold
        </button>
      </div>
    </div>
  )
}
