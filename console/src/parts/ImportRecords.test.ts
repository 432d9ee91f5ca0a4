import { enableAutoUnmount, flushPromises, mount } from '@vue/test-utils'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { answering, problem, type Asked } from '../testing/service'
import ImportRecords from './ImportRecords.vue'

enableAutoUnmount(afterEach)
let asked: Asked[]
const rows = [
  { number: 'A', text: 'Berth' },
  { number: 'A', text: 'Power' },
]
const items = [
  { number: 'A', buyer: { name: 'Ida' }, items: { text: 'Berth' } },
  { number: 'A', buyer: { name: 'Ida' }, items: { text: 'Power' } },
]
let nested = false
const query = (a: Asked) => Object.fromEntries(new URL(a.path, 'http://x').searchParams)

beforeEach(() => {
  window.document.body.innerHTML = ''
  nested = false
  asked = answering({
    'POST /record-previews': (a) => {
      const q = query(a)
      if (!q['lines-in-rows']) return { count: 2, bad: [], notes: [], preview: nested ? items : rows }
      if (!q.fields) return problem(422, 'no field begins with "lines."')
      return { count: 1, bad: [], notes: [], preview: [{ number: 'A', lines: rows }] }
    },
    'POST /record-sets': { id: 4, count: 1, bad: [], notes: [] },
  })
})

async function open() {
  const errors = vi.spyOn(console, 'warn')
  const w = mount(ImportRecords, { props: { file: undefined as File | undefined }, attachTo: window.document.body })
  await w.setProps({ file: new File(['x'], 'rows.csv') })
  await flushPromises()
  const body = window.document.body
  const set = async (selector: string, value: string) => {
    const input = body.querySelector<HTMLInputElement>(selector)!
    input.value = value
    input.dispatchEvent(new Event('input'))
    input.dispatchEvent(new Event('change'))
    await flushPromises()
  }
  const press = async (selector: string) => {
    body.querySelector<HTMLElement>(selector)!.click()
    await flushPromises()
  }
  return { w, body, set, press, errors }
}

it('rows of one key become a record, once their columns are named as lines', async () => {
  const { w, body, set, press } = await open()
  expect(body.textContent).toContain('2 records')
  await press('[data-test=in-rows] input')
  expect(body.textContent).toContain('no field begins with "lines."')
  expect(body.querySelector<HTMLButtonElement>('[data-test=import]')!.disabled).toBe(true)
  await set('[aria-label=text]', 'lines.text')
  expect(body.textContent).toContain('1 record')
  expect(body.textContent).toContain('First record: 2 lines')
  await press('[data-test=import]')
  expect(query(asked.at(-1)!)).toEqual({
    name: 'rows.csv',
    'skip-bad': 'true',
    'lines-in-rows': 'true',
    key: 'number',
    into: 'lines',
    fields: '{"text":"lines.text"}',
  })
  expect(w.emitted('done')).toHaveLength(1)
})

it('what differs in rows of one key is taken for their lines', async () => {
  nested = true
  const { body, press } = await open()
  await press('[data-test=in-rows] input')
  expect(body.querySelector<HTMLInputElement>('#import-into')!.value).toBe('items')
})

it('closes without a word, and takes another file afterwards', async () => {
  const { w, body, errors } = await open()
  await w.setProps({ file: undefined })
  await flushPromises()
  expect(errors).not.toHaveBeenCalled()
  await w.setProps({ file: new File(['x'], 'other.json') })
  await flushPromises()
  expect(body.textContent).toContain('Import other.json')
  expect(body.querySelector('[data-test=in-rows]')).toBeNull()
})
