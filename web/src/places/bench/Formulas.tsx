import { useState } from 'react'
import { useWords } from '../../api/hooks'
import { Typeset } from '../../ui/Typeset'

type FormulaWords = { symbols: string; text: string; source: string }
export function Formulas({ ids }: { ids: string[] }) {
  const { data: words } = useWords()
  if (ids.length === 0) return null
  return (
    <section className="mt-5">
      <h2 className="mb-1 text-lead font-semibold">How it is worked out</h2>
      <div className="grid grid-cols-2 gap-x-10 max-[900px]:grid-cols-1">
        {ids.map((id) => {
          const formula = words?.formulas[id] as FormulaWords | undefined
          return formula ? (
            <div key={id} className="border-b border-hair py-1.5">
              <p>
                <Typeset line={formula.symbols} />
              </p>
              <p className="text-small text-ink-2">
                {formula.text.split(' Raises')[0]}{' '}
                <span className="text-ink-3">Source: {formula.source}</span>
              </p>
            </div>
          ) : null
        })}
      </div>
    </section>
  )
}

export function Share() {
  const [done, setDone] = useState(false)
  return (
    <button
      className="link"
      onClick={() => {
        void navigator.clipboard
          ?.writeText(window.location.href)
          .then(() => setDone(true))
          .catch(() => {})
      }}
    >
      {done ? 'Link copied' : 'Copy the link'}
    </button>
  )
}
