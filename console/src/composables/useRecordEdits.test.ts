import { beforeEach, describe, expect, it } from 'vitest'
import { ref } from 'vue'
import type { RecordRow } from '../api'
import { using } from '../testing/mounted'
import { answering, problem, type Asked } from '../testing/service'
import { asBefore, cellsOf, useRecordEdits } from './useRecordEdits'

const record = (number: number, data: object): RecordRow => ({ number, label: '', revision: 1, data }) as RecordRow
let asked: Asked[]
let kept: Record<number, RecordRow> // what the service has

beforeEach(() => {
  kept = {
    1: record(1, { name: 'Ida', lines: [{ what: 'Rope', price: 2 }] }),
    2: record(2, { name: 'Jon' }),
    9: record(9, { name: 'Ute' }),
  }
  const put = (number: number) => (a: Asked) => {
    if ((a.body as { name?: string }).name === 'bad') return problem(422, 'no such name')
    return (kept[number] = { ...kept[number], data: a.body as RecordRow['data'], revision: kept[number].revision + 1 })
  }
  asked = answering({
    'GET /record-sets/3/records/9': () => kept[9],
    'PUT /record-sets/3/records/1': put(1),
    'PUT /record-sets/3/records/2': put(2),
    'PUT /record-sets/3/records/9': put(9),
  })
})
const opened = () => {
  const rows = ref([structuredClone(kept[1]), structuredClone(kept[2])])
  return { rows, edits: using(() => useRecordEdits(() => 3, rows)).used }
}
const puts = () => asked.filter((a) => a.method === 'PUT').map((a) => a.path.split('/').at(-1))

describe('changes of records', () => {
  it('are kept where they are made, also in lists, with the revision that was read', async () => {
    const { rows, edits } = opened()
    expect(await edits.change([{ record: 1, path: ['lines', 0, 'price'], value: 3 }])).toBe(true)
    expect(kept[1].data).toEqual({ name: 'Ida', lines: [{ what: 'Rope', price: 3 }] })
    expect(rows.value[0]).toEqual(kept[1])
    expect(asked[0].headers.get('If-Match')).toContain('1')
  })
  it('of one record are one request, and one step back', async () => {
    const { edits } = opened()
    await edits.change([
      { record: 1, path: ['name'], value: 'Ada' },
      { record: 1, path: ['lines', 0, 'what'], value: 'Oar' },
      { record: 2, path: ['name'], value: 'Bo' },
    ])
    expect(puts()).toEqual(['1', '2'])
    await edits.undo()
    expect([kept[1].data, kept[2].data]).toEqual([
      { name: 'Ida', lines: [{ what: 'Rope', price: 2 }] },
      { name: 'Jon' },
    ])
    expect([edits.canUndo.value, edits.canRedo.value]).toEqual([false, true])
    await edits.redo()
    expect(kept[2].data).toEqual({ name: 'Bo' })
  })
  it('of a field that was not there are taken back without a trace', async () => {
    const { edits } = opened()
    await edits.change([{ record: 2, path: ['berth'], value: 'C4' }])
    expect(kept[2].data).toEqual({ name: 'Jon', berth: 'C4' })
    await edits.undo()
    expect(kept[2].data).toEqual({ name: 'Jon' })
  })
  it('are taken back one after the other, and a new one ends what could be done again', async () => {
    const { edits } = opened()
    await edits.change([{ record: 2, path: ['name'], value: 'a' }])
    await edits.change([{ record: 2, path: ['name'], value: 'b' }])
    await edits.undo()
    expect(kept[2].data).toEqual({ name: 'a' })
    await edits.change([{ record: 2, path: ['name'], value: 'c' }])
    expect(edits.canRedo.value).toBe(false)
    await edits.undo()
    await edits.undo()
    expect(kept[2].data).toEqual({ name: 'Jon' })
    await edits.undo()
    expect(kept[2].data).toEqual({ name: 'Jon' })
  })
  it('of a record that is not in view any more are taken back as well', async () => {
    const { rows, edits } = opened()
    rows.value.push(structuredClone(kept[9]))
    await edits.change([{ record: 9, path: ['name'], value: 'Uta' }])
    rows.value.pop()
    await edits.undo()
    expect(kept[9].data).toEqual({ name: 'Ute' })
  })
  it('that are refused end the step; what was kept before can be taken back', async () => {
    const { edits } = opened()
    const ok = await edits.change([
      { record: 1, path: ['name'], value: 'Ada' },
      { record: 2, path: ['name'], value: 'bad' },
    ])
    expect(ok).toBe(false)
    expect([kept[1].data, kept[2].data]).toMatchObject([{ name: 'Ada' }, { name: 'Jon' }])
    await edits.undo()
    expect(kept[1].data).toMatchObject({ name: 'Ida' })
  })
  it('of another set are forgotten', async () => {
    const { edits } = opened()
    await edits.change([{ record: 2, path: ['name'], value: 'a' }])
    edits.forget()
    expect(edits.canUndo.value).toBe(false)
  })
})

it.each([
  [2, '3.5', 3.5],
  [2, '', ''],
  [2, 'two', 'two'],
  ['2', '3', '3'],
  [true, 'false', false],
  [true, 'no', 'no'],
  [undefined, '3', '3'],
])('%s becomes of what was typed: %s', (was, typed, want) => expect(asBefore(was, typed)).toBe(want))

it.each([
  [
    'a\tb\nc\td\n',
    [
      ['a', 'b'],
      ['c', 'd'],
    ],
  ],
  ['a\r\nb', [['a'], ['b']]],
  ['a\t\tb', [['a', '', 'b']]],
  ['a', [['a']]],
] as [string, string[][]][])('cells of the clipboard are rows: %j', (text, want) => expect(cellsOf(text)).toEqual(want))
