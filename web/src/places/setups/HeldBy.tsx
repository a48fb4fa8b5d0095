import type { StationResult } from '../../api/client'
import { Figure } from '../../ui/Figure'

export function HeldBy({ held }: { held: StationResult['held'] }) {
  if (!held) return <span className="text-ink-3">nothing yet</span>
  return (
    <>
      {held.name}
      {held.force > 0 && (
        <>
          , <Figure value={held.force} quantity={held.quantity} /> {held.each}
        </>
      )}
    </>
  )
}
