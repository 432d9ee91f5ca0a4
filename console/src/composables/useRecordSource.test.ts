import { ElMessage } from 'element-plus'
import { describe, expect, it, vi } from 'vitest'
import { answering } from '../testing/service'
import { useRecordSource } from './useRecordSource'

async function begin() {
  answering({
    'GET /record-sets': { items: [{ id: 4, name: 'May', count: 3 }], total: 1 },
    'GET /record-sets/4/records': ({ path }) => ({
      items: [{ number: path.includes('sort=-size') ? 2 : 1, data: {} }],
      total: 3,
    }),
    'GET /record-sets/4/records/1': { number: 1, data: { n: 1 } },
    'GET /record-sets/4/records/2': { number: 2, data: { n: 2 } },
  })
  const s = useRecordSource(() => '{"n": 0}')
  await s.load()
  return s
}

describe('the record that pages are shown with', () => {
  it('is the sample at first, and again when it is chosen', async () => {
    const s = await begin()
    expect(s.record.value).toBe('{"n": 0}')
    await s.choose(4)
    await s.choose(0)
    expect(s.record.value).toBe('{"n": 0}')
    expect(s.source.value).toEqual({ set: 0, number: 1, count: 1 })
  })
  it('steps through a set and not out of it', async () => {
    const s = await begin()
    await s.choose(4)
    expect(JSON.parse(s.record.value)).toEqual({ n: 1 })
    expect(s.source.value).toEqual({ set: 4, number: 1, count: 3 })
    await s.step(-1)
    expect(s.source.value.number).toBe(1)
    await s.step(1)
    expect(JSON.parse(s.record.value)).toEqual({ n: 2 })
  })
  it('is the longest or the shortest one of a set', async () => {
    const s = await begin()
    await s.choose(4)
    await s.extreme('-size')
    expect([s.source.value.number, JSON.parse(s.record.value)]).toEqual([2, { n: 2 }])
    await s.extreme('size')
    expect(s.source.value.number).toBe(1)
  })
  it('stays where the next one cannot be read', async () => {
    const tell = vi.spyOn(ElMessage, 'error').mockReturnValue(undefined as never)
    const s = await begin()
    await s.choose(4)
    await s.step(9)
    expect(tell).toHaveBeenCalledOnce()
    expect([s.source.value.number, JSON.parse(s.record.value)]).toEqual([3, { n: 1 }])
  })
})
