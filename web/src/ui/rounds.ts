type Stock = { form?: string; round_axis?: string } | undefined

// Along which of X, Y, Z a blank is round; null for a block.
export const roundOf = (stock: Stock): number | null =>
  stock?.form === 'round' ? 'xyz'.indexOf(stock.round_axis ?? 'z') : null

// The same of the finished part: as wide one way as the other, and wider than a square out of that blank could be.
export function roundWhenDone(stock: Stock, blank: number[], part: number[]): number | null {
  const axis = roundOf(stock)
  if (axis === null) return null
  const [wide, deep] = [part[(axis + 1) % 3] ?? 0, part[(axis + 2) % 3] ?? 0]
  return Math.abs(wide - deep) < 0.01 && wide * Math.SQRT2 > (blank[(axis + 1) % 3] ?? Infinity)
    ? axis
    : null
}
