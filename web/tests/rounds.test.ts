import { expect, it } from 'vitest'
import { roundOf, roundWhenDone } from '../src/ui/rounds'

const bar = { form: 'round', round_axis: 'x' }

it('a part is round where its round blank holds no square as wide', () => {
  expect(roundOf(bar)).toBe(0)
  expect(roundOf({ form: 'block' })).toBeNull()
  expect(roundWhenDone(bar, [97, 50, 50], [42, 48, 48])).toBe(0)
  expect(roundWhenDone(bar, [97, 70, 70], [42, 48, 48])).toBeNull()
  expect(roundWhenDone(bar, [97, 50, 50], [42, 40, 30])).toBeNull()
  expect(roundWhenDone({ form: 'block' }, [97, 50, 50], [42, 48, 48])).toBeNull()
})
