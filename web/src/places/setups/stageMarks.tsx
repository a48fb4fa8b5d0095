// Small signs on the stage.
export function ZeroMark() {
  return (
    <svg
      width="13"
      height="13"
      viewBox="0 0 14 14"
      className="inline-block -translate-y-px"
      role="img"
      aria-label="work zero"
    >
      <circle cx="7" cy="7" r="6" className="fill-paper stroke-brass" strokeWidth="1.4" />
      <path d="M7 7V1a6 6 0 0 1 6 6ZM7 7v6a6 6 0 0 1-6-6Z" className="fill-brass" />
    </svg>
  )
}

export function Corners() {
  const mark =
    'pointer-events-none absolute z-10 h-2.5 w-2.5 before:absolute before:left-1/2 before:h-full before:w-px before:bg-ink-2 after:absolute after:top-1/2 after:h-px after:w-full after:bg-ink-2'
  return (
    <>
      <i className={`${mark} left-2 top-2`} />
      <i className={`${mark} right-2 top-2`} />
      <i className={`${mark} bottom-2 left-2`} />
      <i className={`${mark} bottom-2 right-2`} />
    </>
  )
}
