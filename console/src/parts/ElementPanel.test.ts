import { mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import type { AppliedRule, Probed } from '../api'
import ElementPanel from './ElementPanel.vue'

const rule = (
  selector: string,
  more: Partial<AppliedRule>,
  ...declarations: AppliedRule['declarations']
): AppliedRule => ({
  selector,
  origin: 'page',
  file: 'style.css',
  line: 4,
  column: 1,
  declarations,
  ...more,
})
const element = (name: string, rules: AppliedRule[], box = [10, 20, 100, 50]): Probed => ({
  element: name,
  file: 'page.html',
  line: 7,
  column: 3,
  box,
  margin: [0, 0, 0, 0],
  border: [1, 1, 1, 1],
  padding: [2, 2, 2, 2],
  rules,
})
const td = element('<td>', [
  rule(
    '.sum',
    {},
    { property: 'color', value: 'teal', fate: 'won', line: 4, column: 8 },
    { property: 'colour', value: 'red', fate: 'dropped', line: 5, column: 3 },
  ),
  rule('td', { line: 9 }, { property: 'color', value: 'red', fate: 'lost', line: 9, column: 6 }),
  rule(
    'td',
    { origin: 'default', file: undefined, line: undefined },
    { property: 'display', value: 'table-cell', fate: 'won' },
  ),
])
const path = [element('<table>', []), element('<tr>', [], [0, 0, 0, 0]), td]

function open(props: Partial<InstanceType<typeof ElementPanel>['$props']> = {}) {
  const w = mount(ElementPanel, { props: { path, editable: () => true, ...props } })
  const text = (selector: string) => w.findAll(selector).map((e) => e.text().replace(/\s+/g, ' '))
  return { w, text }
}

describe('what stands at a point', () => {
  it('begins with the innermost element, and goes to those around it', async () => {
    const { w, text } = open()
    expect(text('.path .mono')).toEqual(['<table>', '<tr>', '<td>'])
    expect(w.find('[aria-current=true]').text()).toBe('<td>')
    await w.findAll('.path .mono')[1].trigger('click')
    expect(w.emitted('chosen')!.map(([e]) => (e as Probed).element)).toEqual(['<td>', '<tr>'])
    expect(w.text()).toContain('No rule of the page holds for it.')
    expect(w.text()).toContain('It has no box of its own here.')
    expect(w.find('.drawing').exists()).toBe(false)
  })
  it('tells what each rule came to, the default style when it is asked for', async () => {
    const { w, text } = open()
    expect(text('.selector')).toEqual(['.sum style.css:4', 'td style.css:9'].map((s) => s.replace(' ', '')))
    expect(w.findAll('.declaration').map((d) => d.classes().filter((c) => !/mono|declaration/.test(c))[0])).toEqual([
      'won',
      'dropped',
      'lost',
    ])
    expect(w.text()).toContain('not understood, and left out')
    await w.find('input[type=checkbox]').setValue(true)
    expect(text('.selector')).toHaveLength(3)
    expect(w.text()).toContain('default style')
  })
  it('leads to the source', async () => {
    const { w } = open()
    await w.findAll('.selector button')[1].trigger('click')
    await w.find('[data-test=element-source]').trigger('click')
    expect(w.emitted('place')).toEqual([[{ file: 'style.css', line: 9 }], [{ file: 'page.html', line: 7 }]])
  })
  it('takes another value, but none that is empty or the same', async () => {
    const { w } = open()
    const input = w.find('input[aria-label=color]')
    for (const value of ['', ' teal ', 'navy']) await input.setValue(value)
    expect(w.emitted('set')).toEqual([
      [{ file: 'style.css', line: 4, column: 8, property: 'color', before: 'teal', value: 'navy' }],
    ])
  })
  it('is only shown where the file is not to be changed', () => {
    const { w } = open({ editable: () => false })
    expect(w.find('input[aria-label=color]').exists()).toBe(false)
    expect(w.text()).toContain('teal')
  })
  it('may be nothing', () => {
    const { w } = open({ path: [] })
    expect(w.text()).toContain('Click on a page.')
    expect(w.find('.parts').exists()).toBe(false)
  })
})
