import { describe, expect, it } from 'vitest'
import { findOn, type Stretch } from './finding'

const line = (text: string, top = 0, ends = true): Stretch => ({ text, box: [0.1, top, 0.5, 0.02], ends })
const places = (stretches: Stretch[], wanted: string) =>
  findOn(3, stretches, wanted).map((h) => h.boxes.map((b) => b.map((v) => Math.round(v * 1000) / 1000)))

describe('text on a page', () => {
  it('is found wherever it stands, as wide as its letters', () => {
    expect(places([line('0123456789')], '45')).toEqual([[[0.3, 0, 0.1, 0.02]]])
    expect(places([line('ab ab'), line('ab', 0.1)], 'ab')).toHaveLength(3)
    expect(findOn(3, [line('x')], 'x')[0].page).toBe(3)
  })

  it('is as wide as its letters are measured', () => {
    const measured = { ...line('iiMM'), before: (n: number) => [0, 0.125, 0.25, 0.625, 1][n] }
    expect(places([measured], 'im')).toEqual([[[0.163, 0, 0.25, 0.02]]])
    expect(places([measured], 'mm')).toEqual([[[0.225, 0, 0.375, 0.02]]])
  })

  it('is found whatever its case and accents are', () => {
    expect(places([line('Élan ÉLAN elan')], 'elan')).toHaveLength(3)
    expect(places([line('elan')], 'Élan')).toHaveLength(1)
  })

  it('goes over stretches and ends of lines', () => {
    const two = [line('berth ', 0, false), line('twelve', 0.1), line('of the pier', 0.2)]
    expect(places(two, 'berth twelve')).toEqual([
      [
        [0.1, 0, 0.5, 0.02],
        [0.1, 0.1, 0.5, 0.02],
      ],
    ])
    expect(places(two, 'twelve of')).toHaveLength(1)
    expect(places(two, 'twelveof')).toHaveLength(0)
  })

  it('takes spaces of any kind and number for one', () => {
    expect(places([line('1\u00a0204  EUR')], '1 204 EUR')).toHaveLength(1)
    expect(places([line('a b')], '  a   b ')).toHaveLength(1)
  })

  it('is nowhere when nothing is asked, or nothing is there', () => {
    expect(places([line('a b')], ' ')).toEqual([])
    expect(places([], 'a')).toEqual([])
    expect(places([line('')], 'a')).toEqual([])
  })

  it('is found where a letter has an accent of its own', () => {
    expect(places([line('e\u0301te')], 'te')).toHaveLength(1)
  })
})
