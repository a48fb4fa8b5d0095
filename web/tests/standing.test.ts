import { readFileSync } from 'node:fs'
import { beforeAll, expect, it } from 'vitest'
import type { Evaluation } from '../src/api/client'
import { standingLabels } from '../src/places/standing'
import { type DisplayTable, setDisplay } from '../src/ui/format'
import { parse } from './toml'

beforeAll(() =>
  setDisplay(parse(readFileSync('../machining/data/display.toml', 'utf8')) as DisplayTable),
)

const piece = (thick_mm: number, ...at: number[][]): Evaluation['left'][number] => ({
  where: { text: 'in a pocket', values: {} },
  count: at.length,
  volume_mm3: 10,
  thick_mm,
  at,
})

it('says of each piece how thick it is, where it stands in the part', () => {
  const labels = standingLabels(
    [piece(3.513, [1, 2, 3]), piece(0.5, [4, 5, 6], [7, 8, 9])],
    'metric',
  )
  expect(labels.map((each) => each.at)).toEqual([
    [1, 2, 3],
    [4, 5, 6],
    [7, 8, 9],
  ])
  expect(labels.map((each) => each.words)).toEqual(['◌ 3.5 mm', '◌ 0.5 mm', '◌ 0.5 mm'])
})

it('puts it where a setup has the part: turned over about X and moved', () => {
  const over = [1, 0, 0, 10, 0, -1, 0, 20, 0, 0, -1, 30]
  expect(standingLabels([piece(1, [1, 2, 3])], 'inch', over)[0]!.at).toEqual([11, 18, 27])
})

it('has no more words than the drawing bears', () => {
  const many = Array.from({ length: 40 }, (_, k) => [k, 0, 0])
  expect(standingLabels([piece(1, ...many)], 'metric')).toHaveLength(12)
})
