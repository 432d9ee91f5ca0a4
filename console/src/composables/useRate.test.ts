import { expect, it } from 'vitest'
import type { Batch } from '../api'
import { useRate } from './useRate'

function told(...steps: [seconds: number, done: number, more?: Partial<Batch>][]) {
  let now = 0
  const r = useRate(() => now)
  for (const [seconds, done, more] of steps) {
    now = seconds * 1000
    r.tell({ state: 'running', total: 100, done, failed: 0, ...more } as Batch)
  }
  return [r.rate.value, r.seconds.value]
}

it.each([
  ['nothing while there is one look', [[0, 10]], [undefined, undefined]],
  [
    'nothing in the first second',
    [
      [0, 0],
      [0.9, 9],
    ],
    [undefined, undefined],
  ],
  [
    'documents a second, and the time for the rest',
    [
      [0, 0],
      [2, 20],
    ],
    [10, 8],
  ],
  [
    'those that failed as well',
    [
      [0, 0],
      [2, 15, { failed: 5 }],
    ],
    [10, 8],
  ],
  [
    'the last twenty seconds',
    [
      [0, 0],
      [30, 30],
      [40, 50],
    ],
    [2, 25],
  ],
  [
    'nothing while it is paused',
    [
      [0, 0],
      [2, 20, { state: 'paused' }],
    ],
    [undefined, undefined],
  ],
  [
    'anew after a pause',
    [
      [0, 0],
      [2, 20, { state: 'paused' }],
      [9, 20],
      [11, 30],
    ],
    [5, 14],
  ],
  [
    'anew when failures get another turn',
    [
      [0, 0, { failed: 40 }],
      [2, 0],
      [4, 20],
    ],
    [10, 8],
  ],
] as [string, [number, number, Partial<Batch>?][], (number | undefined)[]][])('tells %s', (_, steps, want) => {
  const got = told(...steps)
  want.forEach((w, i) => (w === undefined ? expect(got[i]).toBeUndefined() : expect(got[i]).toBeCloseTo(w)))
})
