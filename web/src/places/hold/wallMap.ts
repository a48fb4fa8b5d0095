import type { Wall } from './useThin'

export type Line = [number, number, number, number]

// The size of a wall's flat in cells, across and up.
export function sizeOf(wall: Wall): [number, number] {
  const across = Math.max(...wall.cells.map(([i]) => i)) + 1
  const up = Math.max(...wall.cells.map(([, j]) => j)) + 1
  return [across, up]
}

// How dark a thickness is drawn: the thinnest of all darkest.
export function shade(thick: number, thinnest: number, thickest: number): number {
  const span = thickest - thinnest
  const share = span > 0.05 ? (thick - thinnest) / span : 0.4
  return 0.72 - 0.56 * Math.min(1, Math.max(0, share))
}

// Edges over which a wall is carried as straight lines, in cells from its upper left corner; edges in a row as one.
export function carriedLines(wall: Wall): Line[] {
  const [, high] = sizeOf(wall)
  const level = new Map<string, number[]>() // side and row -> places along it
  for (const [i, j, side] of wall.carried) {
    const upright = side < 2
    const at = upright ? i + (side === 1 ? 1 : 0) : high - j - (side === 3 ? 1 : 0)
    const name = `${upright} ${at}`
    level.set(name, [...(level.get(name) ?? []), upright ? high - 1 - j : i])
  }
  return [...level].flatMap(([name, places]) => {
    const [upright, row] = name.split(' ')
    const at = Number(row)
    return runs(places).map(([from, to]): Line =>
      upright === 'true' ? [at, from, at, to] : [from, at, to, at],
    )
  })
}

// Whole numbers that follow one another, as from and to (one past the last).
function runs(places: number[]): [number, number][] {
  const found: [number, number][] = []
  for (const each of [...new Set(places)].sort((a, b) => a - b)) {
    const last = found[found.length - 1]
    if (last && last[1] === each) last[1] = each + 1
    else found.push([each, each + 1])
  }
  return found
}
