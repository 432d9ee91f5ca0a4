import { ref } from 'vue'
import { service, type RecordSet } from '../api'
import { attempt } from '../attempt'

export type RecordSource = ReturnType<typeof useRecordSource>

/** The record that pages are shown with: the template's sample, or one of a set, step by step. */
export function useRecordSource(sample: () => string) {
  const record = ref('{\n}\n') // as JSON
  const sets = ref<RecordSet[]>([])
  const source = ref({ set: 0, number: 1, count: 1 }) // set is 0 for the sample

  async function load() {
    record.value = sample()
    sets.value = (await service.recordSets()).items
  }
  async function step(by: number) {
    const s = source.value
    s.number = Math.min(Math.max(s.number + by, 1), s.count)
    if (!s.set) {
      record.value = sample()
      return
    }
    const r = await attempt(() => service.record(s.set, s.number))
    if (r) record.value = JSON.stringify(r.data, null, 2)
  }
  /** Goes to the record that is the shortest or the longest one: layouts break there. */
  async function extreme(sort: 'size' | '-size') {
    const s = source.value
    const found = await attempt(() => service.records(s.set, { sort, limit: 1 }))
    if (found?.items.length) s.number = found.items[0].number
    return step(0)
  }
  function choose(set: number) {
    source.value = { set, number: 1, count: sets.value.find((s) => s.id === set)?.count ?? 1 }
    return step(0)
  }
  return { record, sets, source, load, step, choose, extreme }
}
