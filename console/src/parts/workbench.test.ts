import { flushPromises, mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import { useRecordSource } from '../composables/useRecordSource'
import { answering } from '../testing/service'
import FieldPalette from './FieldPalette.vue'
import FindingList from './FindingList.vue'
import RecordStep from './RecordStep.vue'

describe('the palette', () => {
  const record = JSON.stringify({ total: 12.5, lines: [{ what: 'Mooring' }] })
  const items = (w: ReturnType<typeof mount>) => w.findAll('button').map((b) => b.text())

  it('offers the fields with what they hold, and the functions', async () => {
    const w = mount(FieldPalette, { props: { record } })
    expect(items(w).slice(0, 3)).toEqual(['.total12.5', '.lines1 entry', '.whatMooring'])
    expect(items(w).some((x) => x.startsWith('money'))).toBe(true)
  })
  it('places what is chosen', async () => {
    const w = mount(FieldPalette, { props: { record } })
    await w.findAll('button')[0].trigger('click')
    await w.findAll('button')[1].trigger('click')
    await w
      .findAll('button')
      .find((b) => b.text().startsWith('money'))!
      .trigger('click')
    expect(w.emitted('place')).toEqual([['{{.total}}'], ['{{range .lines}}\n{{end}}'], ['{{money }}']])
  })
  it('narrows down to what is looked for', async () => {
    const w = mount(FieldPalette, { props: { record } })
    await w.find('input').setValue('MOOR')
    expect(items(w)).toEqual(['.whatMooring'])
    await w.find('input').setValue('nothing like it')
    expect(w.text()).toContain('Nothing matches')
  })
  it('offers no fields of what is no JSON', () => {
    const w = mount(FieldPalette, { props: { record: '{' } })
    expect(w.text()).toContain('Nothing matches')
  })
})

describe('the list of findings', () => {
  it('tells what, where and what to do, and leads there', async () => {
    const finding = {
      code: 'cut',
      severity: 'warning',
      message: 'a table is cut off',
      file: 'page.html',
      line: 9,
      page: 2,
      advice: 'make it narrower',
    }
    const w = mount(FindingList, { props: { findings: [finding, { code: 'x', severity: 'note', message: 'm' }] } })
    expect(w.findAll('li')[0].text()).toBe('warning a table is cut offpage.html:9 · Page 2make it narrower')
    expect(w.findAll('li')[1].text()).toBe('note m')
    await w.find('button').trigger('click')
    expect(w.emitted('chosen')).toEqual([[finding]])
  })
})

describe('the choice of a record', () => {
  async function begin(set: number) {
    answering({
      'GET /record-sets': { items: [{ id: 4, name: 'May', count: 2 }], total: 1 },
      'GET /record-sets/4/records/1': { number: 1, data: { n: 1 } },
      'GET /record-sets/4/records/2': { number: 2, data: { n: 2 } },
    })
    const from = useRecordSource(() => '{}')
    await from.load()
    if (set) await from.choose(set)
    return { from, w: mount(RecordStep, { props: { from } }) }
  }
  const off = (w: ReturnType<typeof mount>) => w.findAll('button').map((b) => b.attributes('disabled') !== undefined)

  it('steps through a set, from its first to its last', async () => {
    const { from, w } = await begin(4)
    expect(off(w)).toEqual([true, false, false, false])
    expect(w.text()).toContain('Record 1 of 2')
    await w.findAll('button')[1].trigger('click')
    await flushPromises()
    expect(JSON.parse(from.record.value)).toEqual({ n: 2 })
    expect(w.emitted('changed')).toHaveLength(1)
    expect(off(w)).toEqual([false, true, false, false])
  })
  it('has nothing to step through for the sample', async () => {
    expect((await begin(0)).w.findAll('button')).toHaveLength(0)
  })
})
