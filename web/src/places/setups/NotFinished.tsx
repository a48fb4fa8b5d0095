import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react'
import { Figure, Sentence } from '../../ui/Figure'
import { useFrame } from '../frame'

// What still stands over the part after its last setup: no mistake while planning, but not a part yet.
export function NotFinished({ onAdd }: { onAdd: () => void }) {
  const { evaluation } = useFrame()
  if (!evaluation || evaluation.left.length === 0) return null
  const left = evaluation.left
  return (
    <Popover className="contents">
      <PopoverButton className="flex items-center gap-1.5 hover:text-ink">
        <span aria-hidden className="inline-block size-2.5 border border-dashed border-ink-3" />
        <span className="underline decoration-hair-strong underline-offset-4">
          not finished: <Figure value={evaluation.left_mm3} quantity="volume" /> left
        </span>
      </PopoverButton>
      <PopoverPanel
        anchor={{ to: 'top start', gap: 8, padding: 12 }}
        className="z-40 w-[420px] border border-hair-strong bg-surface px-4 py-3 text-body"
      >
        {({ close }) => (
          <>
            <h2 className="font-semibold">Still stands after the last setup</h2>
            <table className="mt-1 w-full">
              <thead className="text-left text-small text-ink-2">
                <tr>
                  <th className="font-normal">Where</th>
                  <th className="text-right font-normal">Thick</th>
                  <th className="text-right font-normal">Volume</th>
                </tr>
              </thead>
              <tbody>
                {left.map((each, k) => (
                  <tr key={k} className="border-t border-hair">
                    <td className="py-0.5">
                      {each.count > 1 && <span className="n">{each.count} × </span>}
                      <Sentence {...each.where} />
                    </td>
                    <td className="text-right">
                      <Figure value={each.thick_mm} quantity="size" />
                    </td>
                    <td className="text-right">
                      <Figure value={each.volume_mm3} quantity="volume" />
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
            <p className="mt-2 flex items-center justify-between gap-3 border-t border-hair pt-2">
              <span className="text-small text-ink-2">
                Until it is cut, the part is not the drawing’s.
              </span>
              <button
                className="press-2"
                onClick={() => {
                  close()
                  onAdd()
                }}
              >
                Add what cuts it
              </button>
            </p>
          </>
        )}
      </PopoverPanel>
    </Popover>
  )
}
