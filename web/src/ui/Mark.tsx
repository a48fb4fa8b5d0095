// Shape and word for every state; colour only where something is wrong.
export type State = 'fine' | 'look' | 'stop' | 'unknown' | 'working' | 'note'
export const WORD: Record<State, string> = {
  fine: 'fine',
  look: 'look at this',
  stop: 'will not work',
  unknown: 'not known',
  working: 'being worked out',
  note: 'note',
}

export function Mark({ state, size = 13, label }: { state: State; size?: number; label?: string }) {
  const common = {
    width: size,
    height: size,
    viewBox: '0 0 14 14',
    role: 'img',
    'aria-label': label ?? WORD[state],
    className: 'inline-block shrink-0',
  } as const
  if (state === 'stop')
    return (
      <svg {...common}>
        <rect x="1" y="1" width="12" height="12" className="fill-red stroke-red-edge" />
      </svg>
    )
  if (state === 'look')
    return (
      <svg {...common}>
        <path
          d="M7 1 13.4 13H.6Z"
          className="fill-amber stroke-amber-edge"
          strokeLinejoin="round"
        />
      </svg>
    )
  if (state === 'unknown')
    return (
      <svg {...common}>
        <circle cx="7" cy="7" r="5.4" className="fill-none stroke-ink-3" strokeDasharray="2.4 2" />
        <text x="7" y="10.2" textAnchor="middle" className="fill-ink-2 text-[9px]">
          ?
        </text>
      </svg>
    )
  if (state === 'working')
    return (
      <svg {...common}>
        <path
          d="M3 7h.1M7 7h.1M11 7h.1"
          className="stroke-ink-3"
          strokeWidth="2.4"
          strokeLinecap="round"
        />
      </svg>
    )
  if (state === 'note')
    return (
      <svg {...common}>
        <circle cx="7" cy="7" r="2.6" className="fill-none stroke-ink-3" />
      </svg>
    )
  return (
    <svg {...common}>
      <path d="M7 4.4v5.2" className="stroke-quiet" strokeWidth="1.2" />
    </svg>
  )
}

export const QUESTIONS = ['hold', 'reach', 'travel', 'cut', 'size'] as const
export type Question = (typeof QUESTIONS)[number]
export const QUESTION_NAME: Record<Question, string> = {
  hold: 'Hold',
  reach: 'Reach',
  travel: 'Travel',
  cut: 'Cut',
  size: 'Size',
}

const DRAWN: Record<Question, string> = {
  hold: 'M2 4v8M14 4v8M2 8h3M11 8h3M5 5.5h6v5H5z',
  reach: 'M6 1.5h4v5H6zM8 6.5V12M3 14h10M5.5 9.5 8 12l2.5-2.5',
  travel: 'M2 8h12M4.5 5.5 2 8l2.5 2.5M11.5 5.5 14 8l-2.5 2.5M8 3v2M8 11v2',
  cut: 'M2 13h5l6-6M7 13l1.5-4.5L13 3l-1 6z',
  size: 'M3 3v10M13 3v10M3 8h3.5M13 8H9.5M5 6.5 6.5 8 5 9.5M11 6.5 9.5 8 11 9.5',
}

export function QuestionIcon({ question }: { question: Question }) {
  return (
    <svg viewBox="0 0 16 16" width="15" height="15" aria-hidden className="inline-block shrink-0">
      <path
        d={DRAWN[question]}
        className="fill-none stroke-ink"
        strokeWidth="1.25"
        strokeLinejoin="round"
        strokeLinecap="round"
      />
    </svg>
  )
}
