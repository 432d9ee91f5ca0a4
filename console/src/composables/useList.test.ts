import { flushPromises } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import { using } from '../testing/mounted'
import { useList } from './useList'

beforeEach(() => {
  vi.useFakeTimers()
})
afterEach(() => {
  vi.useRealTimers()
})

describe('a list', () => {
  it('is read page by page, and from the start when something else is asked for', async () => {
    const search = ref('')
    const asked: string[] = []
    const { used: list } = using(() =>
      useList(
        async (offset, limit) => {
          asked.push(`${search.value} ${offset} ${limit}`)
          return { items: [offset], total: 45 }
        },
        [search],
      ),
    )
    await flushPromises()
    expect([list.rows.value, list.total.value]).toEqual([[0], 45])
    list.page.value = 3
    await flushPromises()
    expect(list.rows.value).toEqual([40])
    search.value = 'q'
    search.value = 'quay'
    await vi.advanceTimersByTimeAsync(200)
    expect(list.page.value).toBe(1)
    expect(asked.slice(0, 2)).toEqual([' 0 20', ' 40 20'])
    expect(new Set(asked.slice(2))).toEqual(new Set(['quay 0 20']))
  })

  it('tells why it cannot be read, until it can', async () => {
    let fault = 'the database does not answer'
    const { used: list } = using(() =>
      useList(async () => {
        if (fault) throw new Error(fault)
        return { items: ['a'], total: 1 }
      }, []),
    )
    await flushPromises()
    expect([list.error.value, list.rows.value]).toEqual([fault, undefined])
    fault = ''
    await list.load()
    expect([list.error.value, list.rows.value]).toEqual(['', ['a']])
  })

  it('shows the latest answer, whichever comes last', async () => {
    const waiting: ((v: { items: number[]; total: number }) => void)[] = []
    const { used: list } = using(() => useList<number>(() => new Promise((done) => waiting.push(done)), []))
    const second = list.load()
    waiting[1]({ items: [2], total: 1 })
    await second
    waiting[0]({ items: [1], total: 1 })
    await flushPromises()
    expect(list.rows.value).toEqual([2])
  })
})
