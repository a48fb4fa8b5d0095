import type { ReactNode } from 'react'
import type { ViewName } from '../../stage/types'
import { tableShown } from '../load/useLoad'

const VIEWS: [ViewName, string][] = [
  ['iso', 'Iso'],
  ['above', 'Above'],
  ['front', 'Front'],
  ['side', 'Side'],
]

// What is drawn, and the ways to look at it: the part in its holding, or the table it stands on.
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
  const onTable = tableShown.use()
  const looks = (on: boolean) =>
    on ? 'border-b-2 border-ink font-semibold' : 'text-ink-2 hover:text-ink'
  return (
    <div className="flex items-center justify-between border-b border-hair px-4">
      <h2 className="text-lead font-semibold">{title}</h2>
      <div role="group" aria-label="View" className="flex gap-3">
        {VIEWS.map(([name, words]) => (
          <button
            key={name}
            aria-pressed={!onTable && view === name}
            className={looks(!onTable && view === name)}
            onClick={() => (tableShown.set(false), onView?.(name))}
          >
            {words}
          </button>
        ))}
        {table && (
          <button
            aria-pressed={onTable}
            className={looks(onTable)}
            onClick={() => tableShown.set(true)}
          >
            Load
          </button>
        )}
      </div>
    </div>
  )
}
