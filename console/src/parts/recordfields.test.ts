import { describe, expect, it } from 'vitest'
import { fieldsOf, placing, plainPaths } from './recordfields'

const record = {
  number: 'INV-1',
  customer: { name: 'Ada Fenn', address: { city: 'Tidewell' } },
  lines: [{ what: 'Mooring', price: 12.5 }, { what: 'Water' }],
  tags: ['a', 'b'],
  none: null,
  paid: false,
}

describe('fields of a record', () => {
  it('come in its order, with what they hold', () => {
    expect(fieldsOf(record).map((f) => [f.path, f.depth, f.value])).toEqual([
      ['.number', 0, 'INV-1'],
      ['.customer.name', 0, 'Ada Fenn'],
      ['.customer.address.city', 0, 'Tidewell'],
      ['.lines', 0, '2'],
      ['.what', 1, 'Mooring'],
      ['.price', 1, '12.5'],
      ['.tags', 0, '2'],
      ['.none', 0, 'null'],
      ['.paid', 0, 'false'],
    ])
  })
  it('are cut where they are long', () => {
    const value = fieldsOf({ note: 'x'.repeat(200) })[0].value
    expect(value).toHaveLength(60)
    expect(value.endsWith('…')).toBe(true)
  })
  it('are none of what is no record', () => {
    for (const v of [null, 3, 'x', [1, 2]]) expect(fieldsOf(v)).toEqual([])
  })
  it('that are plain have paths, without lists', () => {
    const paths = plainPaths(record).map((p) => p.join('.'))
    expect(paths).toEqual(['number', 'customer.name', 'customer.address.city', 'none', 'paid'])
    expect(plainPaths(undefined)).toEqual([])
  })
  it('are placed as they are, lists as loops', () => {
    const [number] = fieldsOf(record)
    const lines = fieldsOf(record).find((f) => f.list)!
    expect(placing(number)).toBe('{{.number}}')
    expect(placing(lines)).toBe('{{range .lines}}\n{{end}}')
  })
})
