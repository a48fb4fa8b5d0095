import { Listbox, ListboxButton, ListboxOption, ListboxOptions } from '@headlessui/react'
import type { ReactNode } from 'react'

export type Option<T> = { value: T; label: ReactNode; aside?: ReactNode; dim?: boolean }

// One of a list; the label stands before it, arrow keys and letters work.
export function Choice<T extends string | number>({
  label,
  value,
  options,
  onChange,
  labelled = true,
  wide = '',
}: {
  label: string
  value: T
  options: Option<T>[]
  onChange: (value: T) => void
  labelled?: boolean
  wide?: string
}) {
  const chosen = options.find((option) => option.value === value)
  return (
    <span className="inline-flex items-center gap-1.5">
      {labelled && <span className="text-ink-2">{label}</span>}
      <Listbox value={value} onChange={onChange}>
        <ListboxButton
          aria-label={`${label}: ${typeof chosen?.label === 'string' ? chosen.label : value}`}
          className={`field inline-flex items-center gap-2 text-left ${wide}`}
        >
          <span className="truncate">{chosen?.label ?? (value === '' ? '–' : value)}</span>
          <span aria-hidden className="ml-auto text-[9px] text-ink-3">
            ▾
          </span>
        </ListboxButton>
        <ListboxOptions
          anchor="bottom start"
          className="z-40 max-h-80 overflow-auto border border-ink-3 bg-paper py-1 outline-none"
        >
          {options.map((option) => (
            <ListboxOption
              key={String(option.value)}
              value={option.value}
              className={`flex cursor-pointer gap-4 px-2.5 py-1 data-focus:bg-mark data-focus:text-white data-selected:font-semibold${option.dim ? ' text-ink-3' : ''}`}
            >
              <span>{option.label}</span>
              {option.aside && <span className="ml-auto opacity-75">{option.aside}</span>}
            </ListboxOption>
          ))}
        </ListboxOptions>
      </Listbox>
    </span>
  )
}
