import { enableAutoUnmount, flushPromises, mount } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { RecordRow } from '../api'
import { answering, problem, type Asked } from '../testing/service'
import RecordGrid from './RecordGrid.vue'

const row = (number: number, data: object): RecordRow => ({ number, label: '', revision: 1, data }) as RecordRow
enableAutoUnmount(afterEach)
let asked: Asked[]
let refuse = false

beforeEach(() => {
  window.document.body.innerHTML = ''
  refuse = false
  const put = (a: Asked) =>
    refuse ? problem(412, 'someone else has changed it') : row(Number(a.path.split('/').at(-1)), a.body as object)
  asked = answering(Object.fromEntries([1, 2, 3].map((n) => [`PUT /record-sets/3/records/${n}`, put])))
})

async function open() {
  const rows = [
    row(1, {
      name: 'Ida',
      price: 2,
      paid: false,
      lines: [
        { what: 'Rope', price: 2 },
        { what: 'Oar', price: 9 },
      ],
    }),
    row(2, { name: 'Jon', price: 3, paid: true }),
    row(3, { name: 'Ute', price: 4, paid: true }),
  ]
  const w = mount(RecordGrid, { props: { set: 3, rows, editable: true, issues: true }, attachTo: window.document.body })
  await flushPromises()
  const cell = (label: string) => w.find<HTMLElement>(`[aria-label="${label}"]`)
  const type = async (label: string, text: string) => {
    cell(label).element.innerText = text
    await cell(label).trigger('blur')
    await flushPromises()
  }
  const paste = async (label: string, text: string) => {
    await cell(label).trigger('paste', { clipboardData: { getData: () => text } })
    await flushPromises()
  }
  return { w, type, paste, press: async (e: object) => (await w.trigger('keydown', e), flushPromises()) }
}
const kept = () => asked.map((a) => [a.path.split('/').at(-1), a.body])

describe('the grid of records', () => {
  it('keeps what is typed, as the kind that stood there', async () => {
    const { w, type } = await open()
    await type('price 2', '3.50')
    await type('name 3', 'Ute')
    expect(kept()).toEqual([['2', { name: 'Jon', price: 3.5, paid: true }]])
    expect(w.find('[data-test=undo]').exists()).toBe(true)
  })
  it('takes cells of a spreadsheet to the right and downwards, as far as there are any', async () => {
    const { paste } = await open()
    await paste('name 2', 'A\t7\tfalse\tbeyond\nB\t8\nC\t9\n')
    expect(kept()).toEqual([
      ['2', { name: 'A', price: 7, paid: false }],
      ['3', { name: 'B', price: 8, paid: true }],
    ])
    asked.length = 0
    await paste('name 2', 'one text')
    expect(kept()).toEqual([])
  })
  it('opens lists in their place', async () => {
    const { w, type, paste } = await open()
    await w.find('.el-table__expand-icon').trigger('click')
    await flushPromises()
    expect(w.find('caption').text()).toBe('lines')
    await type('lines 2 price, Record 1', '10')
    expect(kept().at(-1)).toEqual([
      '1',
      expect.objectContaining({
        lines: [
          { what: 'Rope', price: 2 },
          { what: 'Oar', price: 10 },
        ],
      }),
    ])
    await paste('lines 1 what, Record 1', 'Mast\t90\nSail\t80\nKeel\t70\n')
    expect(kept().at(-1)![1]).toMatchObject({
      lines: [
        { what: 'Mast', price: 90 },
        { what: 'Sail', price: 80 },
      ],
    })
  })
  it('shows fields that stand in others, and opens what has no column', async () => {
    const data = { number: 'A', buyer: { name: 'Ida', town: 'Tidewell' }, a: 1, b: 2, c: 3, note: 'n'.repeat(300) }
    const w = mount(RecordGrid, {
      props: { set: 3, rows: [row(1, data)], editable: true, issues: false },
      attachTo: window.document.body,
    })
    await flushPromises()
    expect(w.findAll('th').map((h) => h.text())).toEqual([
      'Lists',
      '#',
      'number',
      'buyer.name',
      'a',
      'b',
      'c',
      'Actions',
    ])
    const name = w.find<HTMLElement>('[aria-label="buyer.name 1"]')
    name.element.innerText = 'Ute'
    await name.trigger('blur')
    await flushPromises()
    expect(kept().at(-1)).toEqual(['1', { ...data, buyer: { name: 'Ute', town: 'Tidewell' } }])
    await w.find('.el-table__expand-icon').trigger('click')
    await flushPromises()
    expect(w.findAll('.lists th').map((h) => h.text())).toEqual(['note', 'buyer.town'])
    const town = w.find<HTMLElement>('[aria-label="buyer.town, Record 1"]')
    town.element.innerText = 'Oarham'
    await town.trigger('blur')
    await flushPromises()
    expect(kept().at(-1)![1]).toMatchObject({ buyer: { town: 'Oarham' } })
  })
  it('takes back by keys what is not being typed', async () => {
    const { w, type } = await open()
    await type('name 1', 'Ada')
    w.element.dispatchEvent(new KeyboardEvent('keydown', { key: 'z', ctrlKey: true, bubbles: true }))
    await flushPromises()
    expect(kept().map(([, data]) => (data as { name: string }).name)).toEqual(['Ada', 'Ida'])
    await w.find('[data-test=redo]').trigger('click')
    await flushPromises()
    expect(kept()).toHaveLength(3)
  })
  it('asks for the rows anew when something was refused', async () => {
    const { w, type } = await open()
    refuse = true
    await type('name 1', 'Ada')
    expect(w.emitted('stale')).toHaveLength(1)
  })
})
