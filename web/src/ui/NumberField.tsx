import { useEffect, useId, useRef, useState } from 'react'
import { useUnits } from '../app/units'
import { parse } from './entry'
import { plain, show, unit } from './format'

type Props = {
  label: string
  value: number | null
  quantity: string
  onCommit: (value: number | null, quantity: string) => Promise<unknown> | void
  instead?: string[] // other quantities whose unit may be typed here, such as a speed at the edge for turns
  empty?: string // what an empty field means; without it a value is required
  drill?: boolean
  wide?: boolean
  bad?: boolean
  labelled?: boolean
  bare?: boolean // the unit stands elsewhere
  disabled?: boolean
}

// Shown with other digits, entered as the same kind of value.
const ENTERED_AS: Record<string, string> = {
  size: 'length',
  path: 'length',
  number: 'count',
  factor: 'count',
  percent: 'ratio',
  seconds: 'time',
  count: 'count',
}

// Takes any way of writing a value, shows what it understood, keeps what was typed when it is refused.
export function NumberField({
  label,
  value,
  quantity,
  onCommit,
  empty,
  drill = false,
  wide = false,
  bad = false,
  labelled = true,
  bare = false,
  disabled = false,
  instead = [],
}: Props) {
  const { system } = useUnits()
  const id = useId()
  const [text, setText] = useState<string | null>(null)
  const [problem, setProblem] = useState('')
  const input = useRef<HTMLInputElement>(null)
  const symbol = unit(quantity, system)
  const shown = text ?? (value === null ? '' : plain(value, quantity, system))
  const typed = text !== null && text.trim() !== '' ? text : null
  const first =
    typed === null
      ? null
      : parse(typed, ENTERED_AS[quantity] ?? quantity, label, bareUnit(quantity, system), drill)
  const other =
    typed !== null && first && !first.ok
      ? instead
          .map((each) => ({
            each,
            read: parse(typed, ENTERED_AS[each] ?? each, label, 'a unit', drill),
          }))
          .find((found) => found.read.ok)
      : undefined
  const read = other?.read ?? first
  const meant = other?.each ?? quantity

  useEffect(() => {
    setProblem('') // eslint-disable-line react-hooks/set-state-in-effect
  }, [value])

  async function commit() {
    if (text === null) return
    if (text.trim() === '') {
      if (empty === undefined) return setProblem(`${label}: a value is needed.`)
      await send(null, quantity)
      return
    }
    if (!read) return
    if (!read.ok) return setProblem(read.sentence)
    await send(read.value, meant)
  }
  async function send(next: number | null, as: string) {
    if (
      as === quantity &&
      (next === value || (next !== null && value !== null && Math.abs(next - value) < 1e-9))
    ) {
      setText(null)
      return setProblem('')
    }
    try {
      await onCommit(next, as)
      setText(null)
      setProblem('')
    } catch (error) {
      setProblem((error as Error).message)
    }
  }

  const understood =
    read?.ok && text !== null && /[^\d.\s-]/.test(text)
      ? show(read.value, meant === 'length' ? 'size' : meant, system)
      : ''
  return (
    <span className="relative inline-flex items-center gap-1.5">
      {labelled && (
        <label htmlFor={id} className="text-ink-2">
          {label}
        </label>
      )}
      <input
        id={id}
        ref={input}
        aria-label={labelled ? undefined : label}
        aria-invalid={!!problem || bad}
        aria-describedby={problem || understood ? id + 'h' : undefined}
        disabled={disabled}
        className={`field n text-right ${wide ? 'w-24' : bare ? 'w-[60px]' : 'w-[68px]'} ${bad || problem ? 'border-b-2 border-b-red!' : ''} disabled:bg-surface disabled:text-ink-3`}
        value={shown}
        placeholder={empty}
        inputMode="decimal"
        autoComplete="off"
        onFocus={(event) => event.target.select()}
        onChange={(event) => {
          setText(event.target.value)
          setProblem('')
        }}
        onBlur={() => void commit()}
        onKeyDown={(event) => {
          if (event.key === 'Enter') void commit()
          if (event.key === 'Escape' && text !== null) {
            event.stopPropagation()
            setText(null)
            setProblem('')
          }
        }}
      />
      {!bare && symbol && symbol !== '×' && <span className="text-small text-ink-2">{symbol}</span>}
      {(problem || understood) && (
        <span
          id={id + 'h'}
          role={problem ? 'alert' : 'status'}
          className={`absolute left-0 top-full z-20 mt-0.5 w-max max-w-72 border px-1.5 py-0.5 text-small ${problem ? 'border-red bg-red-wash text-red-edge' : 'border-hair-strong bg-paper text-ink-2'}`}
        >
          {problem || (
            <>
              understood as <span className="n">{understood}</span>
            </>
          )}
        </span>
      )}
    </span>
  )
}

// A bare number is in the unit that stands beside the field.
function bareUnit(quantity: string, system: 'metric' | 'inch'): string | undefined {
  const symbol = unit(quantity, system)
  return symbol && symbol !== '×' && symbol !== '°' ? symbol : undefined
}
