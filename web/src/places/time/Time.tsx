import { useHotkeys } from 'react-hotkeys-hook'
import { Empty, Loading } from '../../ui/States'
import { useFrame } from '../frame'
import { Batch } from './Batch'
import { Goes } from './Goes'
import { rowsOf } from './goes'
import { Money } from './Money'
import { Savings } from './Savings'

// Where the seconds of a part go, and what would save most of them.
export function Time() {
  const { evaluation, session } = useFrame()
  useHotkeys('mod+z', () => void session.undo(), { preventDefault: true })
  useHotkeys(['mod+shift+z', 'mod+y'], () => void session.redo(), { preventDefault: true })
  if (!evaluation) return <Loading what="its times" />
  const rows = rowsOf(evaluation)
  if (evaluation.problem || rows.every((row) => !row.operation))
    return (
      <Empty title="No operation takes any time yet">
        {evaluation.problem ||
          'Plan what is cut in the setups; then it is shown here what takes long.'}
      </Empty>
    )
  return (
    <div className="grid h-full grid-cols-[minmax(0,1fr)_440px]">
      <section aria-label="Where the seconds go" className="min-h-0 overflow-y-auto px-5 py-3">
        <Goes rows={rows} evaluation={evaluation} />
        <Batch evaluation={evaluation} />
        <Money />
      </section>
      <section
        aria-label="What would save most"
        className="min-h-0 overflow-y-auto border-l border-hair-strong bg-paper px-5 py-3"
      >
        <Savings />
      </section>
    </div>
  )
}
