import { ElMessageBox } from 'element-plus'
import { flushPromises } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import { useSession } from '../stores/session'
import { answering, problem } from '../testing/service'
import { using } from '../testing/mounted'
import { useDraft } from './useDraft'

const published = { name: 'card', version: 2, revision: 0, latest: 2, files: { 'page.html': { text: 'old' } } }
const caller = (scopes: string[]) => ({ email: 'a@b', name: 'A', scopes })

beforeEach(() => {
  vi.useFakeTimers()
  useSession().person = caller(['read', 'design'])
})
afterEach(() => {
  vi.useRealTimers()
})

async function begin(answers: Parameters<typeof answering>[0]) {
  const asked = answering({ 'GET /templates/card/draft': published, ...answers })
  const { used: draft, unmount } = using(() => useDraft(ref('card')))
  await draft.load()
  const saved = () => asked.filter((a) => a.method === 'PUT')
  return { asked, saved, draft, unmount }
}

describe('a draft', () => {
  it('begins with the published version', async () => {
    const { draft } = await begin({})
    expect(draft.files['page.html'].text).toBe('old')
    expect([draft.changed.value, draft.revision.value]).toEqual([false, 0])
  })

  it('goes on where it was left', async () => {
    const kept = { ...published, version: 0, revision: 7, files: { 'page.html': { text: 'new' } } }
    const { draft } = await begin({ 'GET /templates/card/draft': kept })
    expect(draft.files['page.html'].text).toBe('new')
    expect([draft.changed.value, draft.unsaved.value, draft.revision.value]).toEqual([true, false, 7])
  })

  it('tells what goes wrong', async () => {
    await expect(begin({ 'GET /templates/card/draft': problem(500, 'the disk is full') })).rejects.toThrow(
      'the disk is full',
    )
    await expect(begin({ 'GET /templates/card/draft': problem(403, 'you may not') })).rejects.toThrow('you may not')
  })

  it('is kept a moment after the last change, once', async () => {
    const { draft, saved } = await begin({ 'PUT /templates/card/draft': { revision: 1, fields: ['name'] } })
    draft.put('page.html', { text: 'n' })
    await vi.advanceTimersByTimeAsync(1000)
    draft.put('page.html', { text: 'ne' })
    await vi.advanceTimersByTimeAsync(1000)
    expect(saved()).toHaveLength(0)
    expect(draft.unsaved.value).toBe(true)
    await vi.advanceTimersByTimeAsync(300)
    expect(saved().map((a) => a.body)).toEqual([{ files: { 'page.html': { text: 'ne' } } }])
    expect([draft.unsaved.value, draft.changed.value, draft.revision.value]).toEqual([false, true, 1])
    expect(draft.template.value?.fields).toEqual(['name'])
  })

  it('loses a file that is removed', async () => {
    const { draft, saved } = await begin({ 'PUT /templates/card/draft': { revision: 1 } })
    draft.put('logo.png', { base64: 'AA==' })
    draft.remove('page.html')
    await vi.advanceTimersByTimeAsync(1300)
    expect(saved()[0].body).toEqual({ files: { 'logo.png': { base64: 'AA==' } } })
  })

  it('stays in the browser while the line is cut, and is tried again', async () => {
    let cut = true
    const { draft, saved } = await begin({
      'PUT /templates/card/draft': () => (cut ? problem(502, 'no answer') : { revision: 1 }),
    })
    draft.put('page.html', { text: 'new' })
    await vi.advanceTimersByTimeAsync(1300)
    expect(localStorage.getItem('olive.draft.card')).toContain('new')
    expect(draft.unsaved.value).toBe(true)
    cut = false
    await vi.advanceTimersByTimeAsync(5100)
    expect(saved()).toHaveLength(2)
    expect(localStorage.getItem('olive.draft.card')).toBeNull()
    expect(draft.unsaved.value).toBe(false)
  })

  it('that was left in the browser comes before the one in the service', async () => {
    localStorage.setItem('olive.draft.card', JSON.stringify({ 'page.html': { text: 'left' } }))
    const { draft, saved } = await begin({ 'PUT /templates/card/draft': { revision: 1 } })
    await flushPromises()
    expect(draft.files['page.html'].text).toBe('left')
    expect(saved()).toHaveLength(1)
  })

  it('asks before it takes the place of what someone else has kept', async () => {
    const ask = vi
      .spyOn(ElMessageBox, 'confirm')
      .mockRejectedValueOnce('cancel')
      .mockResolvedValue('confirm' as never)
    const { draft, saved } = await begin({
      'PUT /templates/card/draft': ({ headers }: { headers: Headers }) =>
        headers.get('If-Match') === '"9"' ? { revision: 10 } : problem(412, 'someone else has changed it'),
    })
    draft.put('page.html', { text: 'mine' })
    await vi.advanceTimersByTimeAsync(1300)
    expect(ask.mock.calls[0][0]).toBe('someone else has changed it')
    expect(saved()).toHaveLength(1)
    expect(localStorage.getItem('olive.draft.card')).toContain('mine')

    answering({
      'GET /templates/card/draft': { revision: 9 },
      'PUT /templates/card/draft': ({ headers }) =>
        headers.get('If-Match') === '"9"' ? { revision: 10 } : problem(412, 'changed'),
    })
    draft.put('page.html', { text: 'mine!' })
    await vi.advanceTimersByTimeAsync(1300)
    await flushPromises()
    expect(draft.revision.value).toBe(10)
    expect(draft.unsaved.value).toBe(false)
  })

  it('is none after it is published or dropped', async () => {
    const { draft, asked } = await begin({
      'PUT /templates/card/draft': { revision: 3 },
      'POST /templates/card/versions': { version: 3 },
      'DELETE /templates/card/draft': {},
    })
    draft.put('page.html', { text: 'new' })
    expect(await draft.publish('larger')).toBe(3)
    expect(asked.at(-1)?.body).toEqual({ files: { 'page.html': { text: 'new' } }, note: 'larger' })
    expect([draft.changed.value, draft.unsaved.value, draft.template.value?.latest]).toEqual([false, false, 3])
    await vi.advanceTimersByTimeAsync(3000)
    expect(asked.at(-1)?.method).toBe('POST')

    await draft.drop()
    expect(asked.at(-1)?.method).toBe('POST') // the service has none
    draft.put('page.html', { text: 'newer' })
    await vi.advanceTimersByTimeAsync(1300)
    await draft.drop()
    expect(asked.at(-1)?.method).toBe('DELETE')
  })

  it('is sent when one leaves before it was', async () => {
    const { draft, saved, unmount } = await begin({ 'PUT /templates/card/draft': { revision: 1 } })
    draft.put('page.html', { text: 'last words' })
    unmount()
    await flushPromises()
    expect(saved()).toHaveLength(1)
  })

  it('holds the browser back while something is not sent', async () => {
    const { draft } = await begin({ 'PUT /templates/card/draft': problem(502, 'cut') })
    const leave = () => {
      const e = new Event('beforeunload', { cancelable: true })
      window.dispatchEvent(e)
      return e.defaultPrevented
    }
    expect(leave()).toBe(false)
    draft.put('page.html', { text: 'new' })
    expect(leave()).toBe(true)
    expect(localStorage.getItem('olive.draft.card')).toContain('new')
  })

  it('of one who only looks is never sent', async () => {
    useSession().person = caller(['read'])
    const { draft, saved } = await begin({})
    draft.put('page.html', { text: 'x' })
    await vi.advanceTimersByTimeAsync(3000)
    expect(saved()).toHaveLength(0)
  })
})
