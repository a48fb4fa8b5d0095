import type { components } from '../../api/schema'

export type Many = components['schemas']['HowManyOut']

// The number at which a part of the batch takes least, of those that nothing stops.
export function best(found: Many[]): Many | undefined {
  return found
    .filter((each) => each.stops.length === 0)
    .reduce<Many | undefined>(
      (least, each) => (!least || each.batch_part_s < least.batch_part_s ? each : least),
      undefined,
    )
}

// Where the points of both curves lie (px from above), between the least and the most of them.
export function curves(found: Many[], wide: number, high: number) {
  const all = found.flatMap((each) => [each.one_part_s, each.batch_part_s])
  const [least, most] = [Math.min(...all), Math.max(...all)]
  const step = wide / found.length
  const y = (seconds: number) => high - ((seconds - least) / (most - least || 1)) * high
  return found.map((each, k) => ({
    x: (k + 0.5) * step,
    part: y(each.one_part_s),
    batch: y(each.batch_part_s),
  }))
}
