import { expect, test } from 'vitest'
import { read, written } from '../src/places/part/priceBreaks'

test('prices from so many on are read as they are written', () => {
  const breaks = [
    { from_so_many: 20, price: 4 },
    { from_so_many: 50, price: 3.5 },
  ]
  expect(written(breaks)).toBe('20: 4, 50: 3.5')
  expect(read(written(breaks))).toEqual(breaks)
  expect(read(' 20:4 ; 50 : 3.50,')).toEqual(breaks)
  expect(read('')).toEqual([])
})

test('what is no price is named', () => {
  expect(() => read('20: 4, fifty: 3')).toThrow('“fifty: 3” is no price')
  expect(() => read('20')).toThrow('“20” is no price')
})
