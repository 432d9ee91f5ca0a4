import { flushPromises } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { answering, problem, type Asked } from '../testing/service'
import { using } from '../testing/mounted'
import { usePreview } from './usePreview'

beforeEach(() => {
  vi.useFakeTimers()
})
afterEach(() => {
  vi.useRealTimers()
})

const rendered = (pages: number, more = {}) => ({
  pages,
  title: '',
  findings: [{ code: 'x', severity: 'note', message: `of ${pages}` }],
  sheets: [],
  html: '<p>' + pages,
  pdf: btoa('%PDF-' + pages),
  ...more,
})
const textOf = (b: ArrayBuffer) => new TextDecoder().decode(b)

describe('a preview', () => {
  it('shows pages with all that is known of them', async () => {
    const asked = answering({ 'POST /renderings': rendered(2) })
    const shown: string[] = []
    const { used: p } = using(() =>
      usePreview(
        () => ({ template: 'card', record: { name: 'Ada' } }),
        async (pdf) => void shown.push(textOf(pdf)),
      ),
    )
    const done = p.show()
    expect(p.busy.value).toBe(true)
    await done
    expect(asked[0].body).toEqual({ template: 'card', record: { name: 'Ada' } })
    expect(asked[0].headers.get('Accept')).toBe('application/json')
    expect(shown).toEqual(['%PDF-2'])
    expect([p.busy.value, p.pages.value, p.merged.value, p.failure.value]).toEqual([false, 2, '<p>2', ''])
    expect(p.findings.value[0].message).toBe('of 2')
  })

  it('keeps the last pages where new ones fail, and says why', async () => {
    let fault: string | undefined
    answering({ 'POST /renderings': () => (fault ? problem(422, fault) : rendered(2)) })
    const { used: p } = using(() =>
      usePreview(
        () => ({}),
        async () => {},
      ),
    )
    await p.show()
    fault = 'page.html:3: no such field'
    await p.show()
    expect([p.failure.value, p.pages.value, p.busy.value]).toEqual([fault, 2, false])
    fault = undefined
    await p.show()
    expect(p.failure.value).toBe('')
  })

  it('says what is wrong with what cannot even be asked', async () => {
    const { used: p } = using(() =>
      usePreview(
        () => {
          throw new Error('no JSON')
        },
        async () => {},
      ),
    )
    await p.show()
    expect([p.failure.value, p.busy.value]).toEqual(['no JSON', false])
  })

  it('drops pages that newer ones have overtaken', async () => {
    const waiting: ((out: object) => void)[] = []
    answering({ 'POST /renderings': () => new Promise<object>((done) => waiting.push(done)) })
    const shown: string[] = []
    const { used: p } = using(() =>
      usePreview(
        () => ({}),
        async (pdf) => void shown.push(textOf(pdf)),
      ),
    )
    const both = [p.show(), p.show()]
    await flushPromises()
    waiting[1](rendered(9))
    await flushPromises()
    waiting[0](rendered(1))
    await Promise.all(both)
    expect(shown).toEqual(['%PDF-9'])
    expect(p.pages.value).toBe(9)
  })

  it('sets once more what has changed meanwhile, and only once', async () => {
    const waiting: ((out: object) => void)[] = []
    const asked: Asked[] = answering({ 'POST /renderings': () => new Promise<object>((done) => waiting.push(done)) })
    const { used: p, unmount } = using(() =>
      usePreview(
        () => ({}),
        async () => {},
      ),
    )
    p.soon()
    p.soon()
    await vi.advanceTimersByTimeAsync(30)
    expect(asked).toHaveLength(1)
    p.soon()
    p.soon()
    await vi.advanceTimersByTimeAsync(500)
    expect(asked).toHaveLength(1)
    waiting[0](rendered(1))
    await vi.advanceTimersByTimeAsync(30)
    expect(asked).toHaveLength(2)
    waiting[1](rendered(1))
    await vi.advanceTimersByTimeAsync(500)
    expect(asked).toHaveLength(2)
    p.soon()
    unmount()
    await vi.advanceTimersByTimeAsync(500)
    expect(asked).toHaveLength(2)
  })
})
