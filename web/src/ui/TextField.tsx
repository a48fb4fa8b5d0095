import { useId, useState } from 'react'

type Props = {
  label: string
  value: string
  onCommit: (value: string) => Promise<unknown> | void
  placeholder?: string
  wide?: string
  labelled?: boolean
  max?: number
}

export function TextField({
  label,
  value,
  onCommit,
  placeholder,
  wide = 'w-64',
  labelled = true,
  max,
}: Props) {
  const id = useId()
  const [text, setText] = useState<string | null>(null)
  const [problem, setProblem] = useState('')
  async function commit() {
    if (text === null || text === value) return setText(null)
    try {
      await onCommit(text)
      setText(null)
      setProblem('')
    } catch (error) {
      setProblem((error as Error).message)
    }
  }
  return (
    <span className="relative inline-flex items-center gap-1.5">
      {labelled && (
        <label htmlFor={id} className="text-ink-2">
          {label}
        </label>
      )}
      <input
        id={id}
        aria-label={labelled ? undefined : label}
        aria-invalid={!!problem}
        className={`field ${wide}`}
        value={text ?? value}
        placeholder={placeholder}
        maxLength={max}
        onChange={(event) => setText(event.target.value)}
        onBlur={() => void commit()}
        onKeyDown={(event) => {
          if (event.key === 'Enter') void commit()
          if (event.key === 'Escape' && text !== null) {
            event.stopPropagation()
            setText(null)
          }
        }}
      />
      {problem && (
        <span
          role="alert"
          className="absolute left-0 top-full z-20 border border-red bg-red-wash px-1.5 text-small text-red-edge"
        >
          {problem}
        </span>
      )}
    </span>
  )
}
