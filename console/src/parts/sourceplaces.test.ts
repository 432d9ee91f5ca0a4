import { describe, expect, it } from 'vitest'
import type { Finding } from '../api'
import { findWord, marksOf, withValue } from './sourceplaces'

const files = {
  'page.html': { text: '<h1>Invoice</h1><p>{{.customer.name}} {{money .total "EUR"}}' },
  'foot.html': { text: '<p>Quay & Lantern' },
  'style.css': { text: '.Tidewell {}' },
}
const record = '{ "customer": { "name": "Ada Fenn" }, "total": 12, "odd.name": "Marsh", "city": "Tidewell" }'
const at = (word: string, run = word) => {
  const place = findWord(files, 'page.html', record, { word, run })
  if (!place) return undefined
  const text = place.file === null ? record : files[place.file as keyof typeof files].text
  return [place.file, text.slice(place.from, place.to)]
}

describe('a word of a page', () => {
  it.each([
    ['in the markup', 'Invoice', ['page.html', 'Invoice']],
    ['in a field that the page shows', 'Ada Fenn', ['page.html', '{{.customer.name}}']],
    ['in a field that no page shows', 'Tidewell', [null, 'Tidewell']],
    ['in another file', 'Lantern', ['foot.html', 'Lantern']],
    ['nowhere', 'Whale', undefined],
    ['in a field with a point in its name', 'Marsh', [null, 'Marsh']],
  ])('is found %s', (_, word, want) => expect(at(word)).toEqual(want))

  it('is looked for with what stands around it first', () => {
    expect(at('Ada', 'Ada Fenn')).toEqual(['page.html', '{{.customer.name}}'])
    expect(at('Invoice', 'Invoice 12')).toEqual(['page.html', 'Invoice'])
  })
})

describe('marks of a file', () => {
  const finding = (f: Partial<Finding>): Finding => ({ code: 'x', severity: 'warning', message: 'm', ...f })
  it('are the findings with a line of it', () => {
    const list = [
      finding({ file: 'page.html', line: 3, column: 2 }),
      finding({ file: 'style.css', line: 1 }),
      finding({ file: 'page.html' }),
      finding({ file: 'page.html', line: 9, severity: 'note' }),
    ]
    expect(marksOf('page.html', list, '')).toEqual([
      { line: 3, column: 2, severity: 'warning', message: 'm' },
      { line: 9, column: undefined, severity: 'info', message: 'm' },
    ])
  })
  it.each([
    ['page.html:12: no such field', 12],
    ['record 1 (page.html line 7): no such field', 7],
    ['templates/card/page.html:4:2: unexpected', 4],
  ])('tell of a failure: %s', (failure, line) =>
    expect(marksOf('page.html', [], failure)).toEqual([{ line, severity: 'error', message: failure }]),
  )
  it('leave out failures of other files', () => expect(marksOf('page.html', [], 'mypage.html:12: x')).toEqual([]))
})

describe('another value', () => {
  const text = 'h1 { color: red }\np { /* ä */ margin: 1px  2px !important; color:blue }\n'
  const set = (line: number, column: number, property: string, before: string, value: string) =>
    withValue(text, { file: 'a.css', line, column, property, before, value })
  it('takes the place of the old one, and nothing else', () => {
    expect(set(1, 6, 'color', 'red', 'teal')).toBe(text.replace('red', 'teal'))
    expect(set(2, 14, 'margin', '1px 2px', '3px')).toBe(text.replace('1px  2px', '3px'))
    expect(set(2, 43, 'color', 'blue', 'navy')).toBe(text.replace('blue', 'navy'))
  })
  it.each([
    ['the property is another one', 1, 6, 'width', 'red'],
    ['the value is another one', 1, 6, 'color', 'green'],
    ['nothing stands there', 9, 1, 'color', 'red'],
  ])('is not set where %s', (_, line, column, property, before) =>
    expect(set(line, column, property, before, 'x')).toBeUndefined(),
  )
})
