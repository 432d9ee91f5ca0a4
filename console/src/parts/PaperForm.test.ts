import { flushPromises, mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import type { Sheet } from '../api'
import PaperForm from './PaperForm.vue'
import { readPaper } from './paper'

// A4 with margins of 18, 18, 24 and 20 mm
const sheet: Sheet = { width: 793.7, height: 1122.52, area: [75.59, 68.03, 650.08, 963.78], end: 0, break: '' }
const open = (css: string, shown: Sheet | undefined = sheet) => mount(PaperForm, { props: { css, sheet: shown } })
const last = (w: ReturnType<typeof open>) => readPaper(String(w.emitted('change')!.at(-1)![0]))

describe('the form for paper', () => {
  it("shows what the template's own rules give, and writes nothing by itself", async () => {
    const w = open('')
    await flushPromises()
    expect(w.find('[data-test=in-effect]').text()).toContain('On the first page: A4, 18 18 24 20 mm')
    expect(w.text()).toContain('by the rules of the template')
    expect(w.findAll('[role=slider]').map((h) => h.attributes('aria-valuenow'))).toEqual(['18', '18', '24', '20'])
    expect(w.emitted('change')).toBeUndefined()
  })
  it('takes over what is in effect when one edge is moved', async () => {
    const w = open('')
    await w.find('.handle.left').trigger('keydown', { key: 'ArrowRight' })
    expect(last(w)).toMatchObject({ size: 'A4', top: 18, right: 18, bottom: 24, left: 21 })
    await w.find('.handle.bottom').trigger('keydown', { key: 'ArrowDown' })
    expect(last(w)).toMatchObject({ bottom: 23, left: 21 })
  })
  it('tells when another rule is stronger', async () => {
    const w = open('@page {\n  size: A4;\n  margin: 10mm;\n}\n')
    expect(w.text()).toContain('another rule is stronger than this form')
    await w.setProps({ css: '@page {\n  size: A4;\n  margin: 18mm 18mm 24mm 20mm;\n}\n' })
    expect(w.text()).not.toContain('another rule is stronger')
  })
  it('follows the file when that is edited elsewhere', async () => {
    const w = open('@page {\n  size: A4;\n  margin: 10mm;\n}\n')
    await w.setProps({ css: '@page {\n  size: A6;\n  margin: 4mm;\n}\n' })
    expect(w.findAll('[role=slider]').map((h) => h.attributes('aria-valuenow'))).toEqual(['4', '4', '4', '4'])
    expect(w.emitted('change')).toBeUndefined()
  })
  it('keeps an edge on the sheet', async () => {
    const w = open('@page {\n  size: A6;\n  margin: 0mm 47mm 0mm 0mm;\n}\n')
    await w.find('.handle.top').trigger('keydown', { key: 'ArrowUp' })
    await w.find('.handle.right').trigger('keydown', { key: 'ArrowLeft' })
    await w.find('.handle.right').trigger('keydown', { key: 'Enter' })
    expect(w.findAll('[role=slider]').map((h) => h.attributes('aria-valuenow'))).toEqual(['0', '47', '0', '0'])
  })
})
