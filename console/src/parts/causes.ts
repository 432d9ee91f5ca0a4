import type { Item } from '../api'

/** Records whose documents failed for the same reason. */
export interface Cause {
  why: string
  records: number[]
}

/** Failed items by what went wrong, the most frequent first. What names the record is left out of the reason. */
export function causesOf(items: Item[]): Cause[] {
  const by = new Map<string, number[]>()
  for (const item of items) {
    const why = (item.error ?? '').replace(/^record \d+( \([^)]*\))?:? /, '')
    by.set(why, [...(by.get(why) ?? []), item.record])
  }
  return [...by].map(([why, records]) => ({ why, records })).sort((a, b) => b.records.length - a.records.length)
}
