import { flushPromises, mount } from '@vue/test-utils'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { Finding, Probed, Sheet } from '../api'
import PageView from './PageView.vue'
import * as pdf from './pdf'

vi.mock('./pdf', () => ({
  loadPages: vi.fn(),
  drawPage: vi.fn(),
  pageSize: vi.fn(),
  textAt: vi.fn(),
  stretchesOf: vi.fn(),
}))

const sheet = (more: Partial<Sheet> = {}): Sheet => ({
  width: 800,
  height: 1000,
  area: [80, 100, 640, 800],
  end: 500,
  break: '',
  ...more,
})
const finding = (more: Partial<Finding>): Finding => ({ code: 'x', severity: 'warning', message: 'm', ...more })
const document = (pages: number) => ({ numPages: pages, destroy: vi.fn() })

// the view is 600 px tall; pages follow each other, 1000 px apart
beforeEach(() => {
  window.document.body.innerHTML = ''
  vi.spyOn(HTMLElement.prototype, 'getBoundingClientRect').mockImplementation(function (this: HTMLElement) {
    const pages = [...window.document.querySelectorAll('canvas')]
    const top = this.tagName === 'CANVAS' ? pages.indexOf(this as HTMLCanvasElement) * 1000 : 0
    return new DOMRect(0, top, 800, this.tagName === 'CANVAS' ? 900 : 600)
  })
  vi.mocked(pdf.pageSize).mockResolvedValue({ width: 800, height: 1000 })
  vi.mocked(pdf.drawPage).mockReset().mockResolvedValue(undefined)
})

async function shown(props: InstanceType<typeof PageView>['$props'], pages = 2) {
  const first = document(pages)
  vi.mocked(pdf.loadPages).mockResolvedValue(first as never)
  const w = mount(PageView, { props, attachTo: window.document.body })
  await w.vm.show(new ArrayBuffer(1), () => true)
  await flushPromises()
  return { w, first }
}
const style = (w: Awaited<ReturnType<typeof shown>>['w'], selector: string) => w.find(selector).attributes('style')

describe('pages', () => {
  it('are drawn as wide as fits, or as the zoom says', async () => {
    const { w } = await shown({ sheets: [sheet(), sheet({ height: 400 })] })
    expect(w.findAll('canvas')).toHaveLength(2)
    const fits = vi.mocked(pdf.drawPage).mock.calls[0][3]
    expect(fits).toBeLessThan(800)
    await w.setProps({ zoom: 1.5 })
    await flushPromises()
    expect(vi.mocked(pdf.drawPage).mock.lastCall![3]).toBe(1200)
    expect(w.findAll('canvas').map((c) => c.attributes('style'))).toEqual([
      'width: 1200px; height: 1500px;',
      'width: 1200px; height: 600px;',
    ])
    expect(w.vm.scale).toBe(1.5)
  })

  it('of a newer document take their place, and the older is let go', async () => {
    const { w, first } = await shown({})
    const second = document(5)
    vi.mocked(pdf.loadPages).mockResolvedValue(second as never)
    await w.vm.show(new ArrayBuffer(1), () => true)
    expect(w.findAll('canvas')).toHaveLength(5)
    expect(first.destroy).toHaveBeenCalledOnce()
    w.unmount()
    expect(second.destroy).toHaveBeenCalledOnce()
  })

  it('that nobody wants any more are not shown', async () => {
    const { w } = await shown({})
    const late = document(9)
    vi.mocked(pdf.loadPages).mockResolvedValue(late as never)
    await w.vm.show(new ArrayBuffer(1), () => false)
    expect(w.findAll('canvas')).toHaveLength(2)
    expect(late.destroy).toHaveBeenCalledOnce()
  })

  it('are drawn when they come near, once', async () => {
    const { w } = await shown({}, 9)
    const drawn = () => vi.mocked(pdf.drawPage).mock.calls.map((c) => c[1])
    expect(drawn()).toEqual([1, 2])
    window.dispatchEvent(new Event('resize'))
    await flushPromises()
    expect(drawn()).toEqual([1, 2])
    w.unmount()
  })
})

describe('what lies on pages', () => {
  it('is where it was found, with its number in the list', async () => {
    const list = [
      finding({ page: 1 }),
      finding({ page: 2, rect: [80, 100, 400, 50], message: 'cut', severity: 'error' }),
      finding({ page: 1, rect: [0, 0, 0, 0] }),
    ]
    const { w } = await shown({ findings: list, sheets: [sheet(), sheet()] })
    const marks = w.findAll('.mark')
    expect(marks).toHaveLength(1)
    expect([marks[0].text(), marks[0].attributes('aria-label'), marks[0].classes()]).toEqual([
      '2',
      '2: cut',
      ['mark', 'error'],
    ])
    expect(style(w, '.mark')).toBe('left: 10%; top: 10%; width: 50%; height: 5%;')
    await marks[0].trigger('click')
    expect(w.emitted('finding')).toEqual([[list[1]]])
  })

  it('is the page area and why the page ends, when asked for', async () => {
    const ends = sheet({ break: 'a forced break before <h1>', advice: 'none', file: 'page.html', line: 4 })
    const { w } = await shown({ sheets: [ends, sheet()], areas: false, breaks: false })
    expect(w.find('.area').exists() || w.find('.ending').exists()).toBe(false)
    await w.setProps({ areas: true, breaks: true })
    expect(w.findAll('.area')).toHaveLength(2)
    expect(style(w, '.area')).toBe('left: 10%; top: 10%; width: 80%; height: 80%;')
    expect(w.findAll('.ending')).toHaveLength(1)
    expect(style(w, '.ending')).toBe('top: 50%;')
    await w.find('.ending button').trigger('click')
    expect(w.emitted('finding')![0]).toEqual([
      expect.objectContaining({ code: 'break', message: ends.break, line: 4, page: 1 }),
    ])
  })

  it('is a word where one clicks', async () => {
    vi.mocked(pdf.textAt).mockResolvedValue({ word: 'Ada', run: 'Ada Fenn' })
    const { w } = await shown({})
    await w.find('.page').trigger('click')
    await flushPromises()
    expect(w.emitted('word')).toEqual([[{ word: 'Ada', run: 'Ada Fenn' }]])
    vi.mocked(pdf.textAt).mockResolvedValue(undefined)
    await w.find('.page').trigger('click')
    await flushPromises()
    expect(w.emitted('word')).toHaveLength(1)
  })
})

describe('a click on a page', () => {
  it('asks what stands there, in px of the sheet, instead of looking for the word', async () => {
    const { w } = await shown({ sheets: [sheet(), sheet({ width: 400 })], asking: true })
    vi.mocked(pdf.textAt).mockClear()
    const at = { clientX: 200, clientY: 300 } // of a page that is shown 800 × 600 large
    await w.findAll('.page')[1].trigger('click', at)
    expect(w.emitted('point')).toEqual([[{ page: 2, x: 100, y: 500 }]])
    expect(pdf.textAt).not.toHaveBeenCalled()
    await w.setProps({ asking: false })
    vi.mocked(pdf.textAt).mockResolvedValue({ word: 'Berth', run: 'Berth 12' })
    await w.findAll('.page')[0].trigger('click', at)
    await flushPromises()
    expect(w.emitted('point')).toHaveLength(1)
    expect(w.emitted('word')).toEqual([[{ word: 'Berth', run: 'Berth 12' }]])
  })
  it('has its answer marked: the parts of the box, on its page alone', async () => {
    const element = {
      box: [80, 100, 400, 200],
      margin: [0, 0, 0, 80],
      border: [0, 0, 0, 0],
      padding: [50, 0, 0, 0],
    } as unknown as Probed
    const { w } = await shown({ sheets: [sheet(), sheet()], marked: { page: 1, element } })
    expect(w.findAll('[data-test=box]').map((b) => [b.classes()[1], b.attributes('style')])).toEqual([
      ['margin', 'left: 0%; top: 10%; width: 60%; height: 20%;'],
      ['border', 'left: 10%; top: 10%; width: 50%; height: 20%;'],
      ['padding', 'left: 10%; top: 10%; width: 50%; height: 20%;'],
      ['content', 'left: 10%; top: 15%; width: 50%; height: 15%;'],
    ])
    await w.setProps({ marked: { page: 1, element: { ...element, box: [0, 0, 0, 0] } } })
    expect(w.find('[data-test=box]').exists()).toBe(false)
  })
})

describe('what was found', () => {
  it('is looked for on all pages, and marked where it stands', async () => {
    const { w } = await shown({ sheets: [sheet(), sheet()] })
    vi.mocked(pdf.stretchesOf).mockImplementation(async (_, page) => [
      { text: page === 1 ? 'one gull' : 'gulls', box: [0.25, 0.25, 0.5, 0.0625], ends: true },
    ])
    const hits = await w.vm.find('gull')
    expect(hits.map((h) => h.page)).toEqual([1, 2])
    await w.setProps({ hits, hit: 1 })
    expect(w.findAll('[data-test=hit]')).toHaveLength(2)
    expect(style(w, '[data-test=hit]')).toBe('left: 50%; top: 25%; width: 25%; height: 6.25%;')
    const looked = vi.fn()
    w.find('.hit.looked').element.scrollIntoView = looked
    await w.vm.lookAt(hits[1])
    expect(looked).toHaveBeenCalledWith({ block: 'center' })
  })
})
