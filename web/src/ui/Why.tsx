import { useState } from 'react'
import type { Evaluation } from '../api/client'
import { useWords } from '../api/hooks'
import { useUnits } from '../app/units'
import { fixed, show } from './format'
import { Typeset } from './Typeset'
import { type Asked, Leafed, trimmed, useWhatIf } from './WhatIf'

type Input = [name: string, value: number, origin: string]
type FormulaWords = {
  unit: string
  quantity: string
  symbols: string
  text: string
  source: string
  inputs: Record<string, string>
}
// A figure opened up: its formula, every input with where it came from, and the source. Inputs that are figures open too.
// Asked 'what if', its inputs can be changed without touching the plan, and each says what ten per cent more would do.
export function Why({
  figure,
  evaluation,
  plan,
  revision,
}: {
  figure: string
  evaluation: Evaluation
  plan?: number
  revision?: number
}) {
  const { asking, changed, asked, ask, clear } = useWhatIf(figure, plan, revision)
  return (
    <div className="my-1">
      <Node figure={figure} evaluation={evaluation} asked={asked} />
      {plan !== undefined && (
        <p className="flex gap-4 pl-3 text-small">
          <button className="link" aria-expanded={asking} onClick={() => ask(!asking)}>
            {asking ? 'Leave the what-if' : 'What if?'}
          </button>
          {asking && changed.length > 0 && (
            <button className="link" onClick={clear}>
              As planned again
            </button>
          )}
          {asking && <span className="text-ink-2">Change an input; the plan stays as it is.</span>}
          {asked?.problem && (
            <span role="alert" className="text-red-edge">
              {asked.problem}
            </span>
          )}
        </p>
      )}
    </div>
  )
}

function Node({
  figure,
  evaluation,
  asked,
  depth = 0,
}: {
  figure: string
  evaluation: Evaluation
  asked: Asked | null
  depth?: number
}) {
  const { system } = useUnits()
  const { data: words } = useWords()
  const [open, setOpen] = useState<string | null>(null)
  const found = evaluation.figures[figure]
  if (!found || !words)
    return <p className="text-ink-2">This figure is gone; the plan has changed.</p>
  const [value, formulaId, inputs] = found as [number, string, Input[]]
  const formula = words.formulas[formulaId] as FormulaWords | undefined
  if (!formula) return null
  const would = asked?.values[figure]
  return (
    <div className={`border-l-2 border-hair-strong pl-3 ${depth ? 'mt-1' : ''}`}>
      <p>
        <Typeset line={formula.symbols} />{' '}
        <span className="n font-semibold">= {show(value, formula.quantity, system)}</span>
        {would !== undefined && Math.abs(would - value) > Math.abs(value) * 1e-9 && (
          <span role="status" className="n ml-3 font-semibold text-brass">
            would be {show(would, formula.quantity, system)} ({change(would / value)})
          </span>
        )}
      </p>
      <p className="text-small text-ink-2">
        {formula.text.split('. Raises')[0]?.split(' Raises')[0]}
      </p>
      <table className="my-1 text-small">
        <tbody>
          {inputs.map(([name, at, origin]) => {
            const inner =
              origin.startsWith('figure:') && evaluation.figures[origin.slice(7)]
                ? origin.slice(7)
                : null
            const into = inner
              ? (words.formulas[
                  (evaluation.figures[inner] as [number, string] | undefined)?.[1] ?? ''
                ] as FormulaWords | undefined)
              : undefined
            const more = inner
              ? undefined
              : asked?.more.find((each) => each.name === name && each.origin === origin)
            return (
              <tr key={name} className="align-baseline">
                <td className="pr-3 text-ink-2">{name.replaceAll('_', ' ')}</td>
                <td className="n whitespace-nowrap pr-3 text-right">
                  {asked && !inner ? (
                    <Leafed
                      name={name}
                      origin={origin}
                      value={at}
                      unit={formula.inputs[name] ?? ''}
                      asked={asked}
                    />
                  ) : into ? (
                    show(at, into.quantity, system)
                  ) : (
                    `${trimmed(at)} ${formula.inputs[name] ?? ''}`
                  )}
                </td>
                <td className="text-ink-2">
                  {inner ? (
                    <>
                      <button
                        className="link"
                        aria-expanded={open === inner}
                        onClick={() => setOpen(open === inner ? null : inner)}
                      >
                        {open === inner ? 'hide' : 'why'}
                      </button>
                      {open === inner && (
                        <Node
                          figure={inner}
                          evaluation={evaluation}
                          asked={asked}
                          depth={depth + 1}
                        />
                      )}
                    </>
                  ) : (
                    origin
                  )}
                </td>
                {asked && (
                  <td className="n pl-4 text-ink-2">
                    {more && Math.abs(more.value - 1) > 5e-4
                      ? `10 % more: ${change(more.value)}`
                      : ''}
                  </td>
                )}
              </tr>
            )
          })}
        </tbody>
      </table>
      <p className="text-tiny text-ink-3">Source: {formula.source}</p>
    </div>
  )
}

const change = (factor: number) =>
  `${factor >= 1 ? '+' : '−'}${fixed(Math.abs(factor - 1) * 100, 1)} %`
