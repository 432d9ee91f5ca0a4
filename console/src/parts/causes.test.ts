import { expect, it } from 'vitest'
import type { Item } from '../api'
import { causesOf } from './causes'

it('are told once for all records, the most frequent first', () => {
  const items = [
    { record: 3, error: 'record 3 (number QL-3): the field "name" is missing' },
    { record: 4, error: 'the page took longer than 5s' },
    { record: 9, error: 'record 9: the field "name" is missing' },
    { record: 10, error: 'record 10 (number QL-9) does not keep to schema.json: the record lacks “seller”' },
    { record: 12, error: 'record 12 does not keep to schema.json: the record lacks “seller”' },
    { record: 11 },
  ] as Item[]
  expect(causesOf(items)).toEqual([
    { why: 'the field "name" is missing', records: [3, 9] },
    { why: 'does not keep to schema.json: the record lacks “seller”', records: [10, 12] },
    { why: 'the page took longer than 5s', records: [4] },
    { why: '', records: [11] },
  ])
  expect(causesOf([])).toEqual([])
})
