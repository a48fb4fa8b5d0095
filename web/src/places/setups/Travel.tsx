import type { OperationResult } from '../../api/client'
import { Figure } from '../../ui/Figure'
import { QuestionIcon } from '../../ui/Mark'

type Gauges = OperationResult['gauges']
// Room on every axis in one line; what runs out stands out.
export function Travel({
  gauges,
  why,
  onWhy,
}: {
  gauges: Gauges
  why: string | null
  onWhy: (figure: string) => void
}) {
  return (
    <p className="grid grid-cols-[76px_1fr] items-center py-px">
      <span className="flex items-center gap-1.5 font-semibold">
        <QuestionIcon question="travel" /> Travel
      </span>
      <span className="flex flex-wrap items-baseline gap-x-4">
        {gauges.map((gauge) => (
          <span key={gauge.id} className={gauge.value < 0 ? 'font-semibold text-red-edge' : ''}>
            {gauge.name} <Figure value={gauge.value} quantity={gauge.quantity} bare />{' '}
            <button
              className="link text-small"
              aria-label={`why ${gauge.name}`}
              aria-expanded={why === gauge.figure}
              onClick={() => onWhy(gauge.figure)}
            >
              {why === gauge.figure ? 'hide' : 'why'}
            </button>
          </span>
        ))}
        <span className="text-ink-2">to spare</span>
      </span>
    </p>
  )
}
