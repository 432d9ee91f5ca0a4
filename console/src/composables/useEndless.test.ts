import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick, ref } from 'vue'
import { flushPromises } from '@vue/test-utils'
import { useEndless } from './useEndless'

const all = Array.from({ length: 25 }, (_, i) => i + 1)
const some = (offset: number, limit: number) =>
  Promise.resolve({ items: all.slice(offset, offset + limit), total: all.length })

describe('useEndless', () => {
  beforeEach(() => {
    vi.useFakeTimers()
  })
  afterEach(() => {
    vi.useRealTimers()
  })

  it('reads on until nothing is left', async () => {
    const get = vi.fn(some)
    const list = useEndless(get, [], 10)
    await flushPromises()
    expect(list.rows.value).toEqual(all.slice(0, 10))
    expect(list.left.value).toBe(15)
    await list.more()
    await list.more()
    expect(list.rows.value).toEqual(all)
    expect(list.left.value).toBe(0)
    await list.more()
    expect(get).toHaveBeenCalledTimes(3)
  })

  it('reads on once at a time', async () => {
    const get = vi.fn(some)
    const list = useEndless(get, [], 10)
    await flushPromises()
    await Promise.all([list.more(), list.more()])
    expect(list.rows.value).toEqual(all.slice(0, 20))
    expect(get).toHaveBeenCalledTimes(2)
  })

  it('reads anew all that is shown', async () => {
    const get = vi.fn(some)
    const list = useEndless(get, [], 10)
    await flushPromises()
    await list.more()
    get.mockClear()
    await list.load()
    expect(list.rows.value).toEqual(all.slice(0, 20))
    expect(get.mock.calls).toEqual([
      [0, 10],
      [10, 10],
    ])
  })

  it('begins again when something else is asked for', async () => {
    const search = ref('')
    const get = vi.fn((offset: number, limit: number) =>
      search.value ? Promise.resolve({ items: [7], total: 1 }) : some(offset, limit),
    )
    const list = useEndless(get, [search], 10)
    await flushPromises()
    await list.more()
    search.value = 'x'
    await nextTick()
    vi.advanceTimersByTime(200)
    await flushPromises()
    expect(list.rows.value).toEqual([7])
    expect(list.left.value).toBe(0)
  })

  it('shows no answer that comes too late', async () => {
    const search = ref('')
    const answers: ((v: { items: number[]; total: number }) => void)[] = []
    const list = useEndless(() => new Promise<{ items: number[]; total: number }>((r) => answers.push(r)), [search], 10)
    search.value = 'x'
    await nextTick()
    vi.advanceTimersByTime(200)
    answers[1]({ items: [2], total: 1 })
    await flushPromises()
    answers[0]({ items: [1], total: 1 })
    await flushPromises()
    expect(list.rows.value).toEqual([2])
  })

  it('keeps what it has when reading on fails, and tells why', async () => {
    let fails = false
    const list = useEndless(
      (offset, limit) => (fails ? Promise.reject(new Error('no answer')) : some(offset, limit)),
      [],
      10,
    )
    await flushPromises()
    fails = true
    await list.more()
    expect(list.rows.value).toHaveLength(10)
    expect(list.error.value).toBe('no answer')
    fails = false
    await list.more()
    expect(list.rows.value).toHaveLength(20)
    expect(list.error.value).toBe('')
  })
})
