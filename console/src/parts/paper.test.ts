import { describe, expect, it } from 'vitest'
import type { Sheet } from '../api'
import { inWords, paperOf, readPaper, samePaper, sizeOf, writePaper, type Paper } from './paper'

const paper = (more: Partial<Paper> = {}): Paper => ({
  size: 'A4',
  landscape: false,
  top: 18,
  right: 18,
  bottom: 24,
  left: 20,
  header: '',
  footer: '',
  watermark: '',
  ...more,
})
const px = (mm: number) => (mm * 96) / 25.4
/** A page of this size in mm with these margins. */
const sheet = (w: number, h: number, [top, right, bottom, left]: number[]): Sheet => ({
  width: px(w),
  height: px(h),
  area: [left, top, w - left - right, h - top - bottom].map(px) as Sheet['area'],
  end: 0,
  break: '',
})

describe('paper.css', () => {
  it.each([
    ['plain', paper()],
    ['landscape', paper({ size: 'A5', landscape: true })],
    ['a size of its own', paper({ size: '100mm 60mm' })],
    ['a header', paper({ header: 'Quay | | {page} / {pages}', footer: 'one "two" \\ three' })],
    ['a watermark', paper({ watermark: 'DRAFT' })],
  ])('is read as it was written: %s', (_, p) => expect(readPaper(writePaper(p))).toEqual(p))
  it('that says nothing stands for A4', () => expect(inWords(readPaper(''))).toBe('A4, 20 20 20 20 mm'))
})

describe('what is in effect', () => {
  it.each([
    ['a sheet with a name', sheet(210, 297, [18, 18, 24, 20]), 'A4, 18 18 24 20 mm'],
    ['one that lies', sheet(210, 148, [10, 10, 10, 10]), 'A5 landscape, 10 10 10 10 mm'],
    ['one without a name', sheet(99, 210, [5, 6, 7, 8]), '99mm 210mm, 5 6 7 8 mm'],
    ['one in inches', sheet(215.9, 279.4, [25.4, 25.4, 25.4, 25.4]), 'letter, 25.4 25.4 25.4 25.4 mm'],
  ])('is told in words: %s', (_, s, want) => expect(inWords(paperOf(s))).toBe(want))
  it('may differ from what is written', () => {
    const now = paperOf(sheet(210, 297, [18, 18, 24, 20]))
    expect(samePaper(now, paper())).toBe(true)
    expect(samePaper(now, paper({ left: 25 }))).toBe(false)
    expect(samePaper(now, paper({ landscape: true }))).toBe(false)
  })
})

it('has a size in mm, where it is known', () => {
  expect(sizeOf(paper({ landscape: true }))).toEqual([297, 210])
  expect(sizeOf(paper({ size: '99mm 210mm' }))).toEqual([99, 210])
  expect(sizeOf(paper({ size: 'envelope' }))).toBeUndefined()
})
