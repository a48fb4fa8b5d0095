// Along which of X, Y, Z a part is round that is cut from a blank round about an axis (null: about none):
// as wide one way as the other, and wider than a square out of that blank could be.
export function roundWhenDone(axis: number | null, blank: number[], part: number[]): number | null {
  if (axis === null) return null
  const [wide, deep] = [part[(axis + 1) % 3] ?? 0, part[(axis + 2) % 3] ?? 0]
  return Math.abs(wide - deep) < 0.01 && wide * Math.SQRT2 > (blank[(axis + 1) % 3] ?? Infinity)
    ? axis
    : null
}
