import { expect, it } from 'vitest'
import type { Probed } from '../api'
import { boxesOf } from './boxes'

it('lie within each other, sides from the top and clockwise', () => {
  const e = { box: [100, 200, 300, 150], margin: [1, 2, 3, 4], border: [5, 6, 7, 8], padding: [10, 20, 30, 40] }
  expect(boxesOf(e as Probed)).toEqual({
    margin: [96, 199, 306, 154],
    border: [100, 200, 300, 150],
    padding: [108, 205, 286, 138],
    content: [148, 215, 226, 98],
  })
  expect(boxesOf({ ...e, margin: [-9, 0, 0, -9] } as Probed).margin).toEqual([100, 200, 300, 150])
})
