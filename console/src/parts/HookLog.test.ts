import { flushPromises, mount } from '@vue/test-utils'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { createMemoryHistory, createRouter } from 'vue-router'
import type { Delivery, Hook } from '../api'
import { answering } from '../testing/service'
import HookLog from './HookLog.vue'

const hook = { id: 4, address: 'https://books.test/in', events: ['document.issued'], paused: false } as Hook
const message = (id: number, state: string, more: object = {}) =>
  ({
    id,
    kind: 'webhook',
    to: hook.address,
    state,
    tries: 1,
    created: '2026-05-31T09:30:00Z',
    hook: 4,
    ...more,
  }) as Delivery

async function open(...messages: Delivery[]) {
  const asked = answering({
    'GET /deliveries': () => ({ items: messages, total: messages.length }),
    'POST /deliveries/9/retry': () => Object.assign(messages[0], { state: 'waiting' }),
    'POST /hooks/4/test': () => {
      const test = message(12, 'waiting', { event: 'hook.tested' })
      messages.unshift(test)
      return test
    },
  })
  const router = createRouter({
    history: createMemoryHistory(),
    routes: [{ path: '/:rest(.*)*', component: { template: '<i />' } }],
  })
  const w = mount(HookLog, { global: { plugins: [router], stubs: { teleport: true } } })
  await w.setProps({ hook })
  await flushPromises()
  const press = async (label: string) => {
    await w
      .findAll('button')
      .find((b) => b.text() === label)!
      .trigger('click')
    await flushPromises()
  }
  return { w, asked, press }
}

afterEach(() => vi.useRealTimers())

describe('what a webhook was told', () => {
  it('is told as nothing while there is nothing', async () => {
    const { w, asked } = await open()
    expect(w.text()).toContain('It was told nothing yet.')
    expect(asked[0].path).toBe('/deliveries?hook=4&offset=0&limit=20')
  })
  it('is a line for each message, with what it is about and why it failed', async () => {
    const { w } = await open(
      message(9, 'failed', { event: 'document.issued', document: 31, error: 'books.test answered 404', tries: 8 }),
      message(8, 'done', { event: 'batch.ended', about: 2 }),
    )
    const lines = w.findAll('li').map((l) => l.text().replace(/\s+/g, ' '))
    expect(lines[0]).toMatch(/^failedDocument issueddocument 31.*Send againbooks.test answered 404 · 8 tries$/)
    expect(lines[1]).toMatch(/^doneBatch endedbatch 2/)
    expect(w.findAll('a').map((a) => a.attributes('href'))).toEqual(['/documents?document=31', '/batches?batch=2'])
  })
  it('is sent again, and read until it has arrived', async () => {
    vi.useFakeTimers()
    const { w, asked, press } = await open(message(9, 'failed', { event: 'document.void', document: 31 }))
    await press('Send again')
    expect(asked.map((a) => a.method + ' ' + a.path.split('?')[0])).toEqual([
      'GET /deliveries',
      'POST /deliveries/9/retry',
      'GET /deliveries',
    ])
    expect(w.text()).not.toContain('Send again')
    await vi.advanceTimersByTimeAsync(2000)
    expect(asked.length).toBe(4)
  })
  it('shows a test that is sent', async () => {
    const { w, press } = await open()
    await press('Send a test')
    expect(w.findAll('li').map((l) => l.text().replace(/\s+/g, ' '))).toEqual([expect.stringMatching(/^waitingTest/)])
  })
})
