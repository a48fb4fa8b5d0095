import { useState } from 'react'
import type { Evaluation } from '../api/client'
import { useWords } from '../api/hooks'
import { useUnits } from '../app/units'
import { fixed, show } from './format'

type Input = [name: string, value: number, origin: string]
type FormulaWords = { unit: string; quantity: string; symbols: string; text: string; source: string; inputs: Record<string, string> }

// A figure opened up: its formula, every input with where it came from, and the source. Inputs that are figures open too.
export function Why({ figure, evaluation, depth = 0 }: { figure: string; evaluation: Evaluation; depth?: number }) {
  const { system } = useUnits()
  const { data: words } = useWords()
  const [open, setOpen] = useState<string | null>(null)
  const found = evaluation.figures[figure]
  if (!found || !words) return <p className="text-ink-2">This figure is gone; the plan has changed.</p>
  const [value, formulaId, inputs] = found as [number, string, Input[]]
  const formula = words.formulas[formulaId] as FormulaWords | undefined
  if (!formula) return null
  return (
    <div className={`border-l-2 border-hair-strong pl-3 ${depth ? 'mt-1' : 'my-1'}`}>
      <p>
        <span className="n text-lead">{formula.symbols}</span> <span className="n font-semibold">= {show(value, formula.quantity, system)}</span>
      </p>
      <p className="text-small text-ink-2">{formula.text.split('. Raises')[0]?.split(' Raises')[0]}</p>
      <table className="my-1 text-small">
        <tbody>
          {inputs.map(([name, at, origin]) => {
            const inner = origin.startsWith('figure:') ? origin.slice(7) : null
            const into = inner ? (words.formulas[(evaluation.figures[inner] as [number, string] | undefined)?.[1] ?? ''] as FormulaWords | undefined) : undefined
            return (
              <tr key={name} className="align-baseline">
                <td className="pr-3 text-ink-2">{name.replaceAll('_', ' ')}</td>
                <td className="n pr-3 text-right">{into ? show(at, into.quantity, system) : `${trimmed(at)} ${formula.inputs[name] ?? ''}`}</td>
                <td className="text-ink-2">
                  {inner && evaluation.figures[inner] ? (
                    <>
                      <button className="link" aria-expanded={open === inner} onClick={() => setOpen(open === inner ? null : inner)}>
                        {open === inner ? 'hide' : 'why'}
                      </button>
                      {open === inner && <Why figure={inner} evaluation={evaluation} depth={depth + 1} />}
                    </>
                  ) : (
                    origin
                  )}
                </td>
              </tr>
            )
          })}
        </tbody>
      </table>
      <p className="text-tiny text-ink-3">Source: {formula.source}</p>
    </div>
  )
}

function trimmed(value: number): string {
  return fixed(value, Math.abs(value) < 1 ? 4 : 3).replace(/\.?0+$/, '') || '0'
}
