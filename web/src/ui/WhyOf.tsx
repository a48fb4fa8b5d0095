import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react'
import type { Evaluation } from '../api/client'
import { Why } from './Why'

// A number that opens what it is made of.
export function WhyOf({
  figure,
  evaluation,
  words,
  children,
}: {
  figure: string
  evaluation: Evaluation
  words: string
  children: React.ReactNode
}) {
  if (!evaluation.figures[figure]) return children
  return (
    <Popover className="contents">
      <PopoverButton
        className="cursor-pointer decoration-hair-strong underline-offset-4 hover:underline aria-expanded:underline"
        onClick={(event: React.MouseEvent) => event.stopPropagation()}
      >
        <span className="sr-only">{words}, why: </span>
        {children}
      </PopoverButton>
      <PopoverPanel
        anchor={{ to: 'bottom end', gap: 6, padding: 12 }}
        className="z-40 max-h-[70vh] w-[460px] overflow-auto border border-hair-strong bg-surface px-4 py-2 text-body"
      >
        <h2 className="font-semibold">{words}</h2>
        <Why figure={figure} evaluation={evaluation} />
      </PopoverPanel>
    </Popover>
  )
}
