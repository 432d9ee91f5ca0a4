import { computed, ref, type Ref } from 'vue'
import type { List } from '../api'
import { whenAsked } from './whenAsked'

/**
 * A list that grows as its end comes into view; it is read from its start when what is asked for changes. size is at
 * most what the service gives at once.
 */
export function useEndless<T>(
  get: (offset: number, limit: number) => Promise<List<T>>,
  asked: Ref<unknown>[],
  size = 100,
) {
  const rows = ref<T[]>() as Ref<T[] | undefined>
  const total = ref(0)
  const error = ref('')
  const busy = ref(false)
  let turn = 0

  /** Reads on from the rows that are kept, until there are at least as many as wanted. */
  async function read(kept: T[], wanted: number) {
    const mine = ++turn
    busy.value = true
    try {
      let list = kept
      for (;;) {
        const out = await get(list.length, size)
        if (mine !== turn) return
        list = [...list, ...out.items]
        total.value = out.total
        if (list.length >= Math.min(wanted, out.total) || !out.items.length) break
      }
      rows.value = list
      error.value = ''
    } catch (e) {
      if (mine === turn) error.value = (e as Error).message
    } finally {
      if (mine === turn) busy.value = false
    }
  }

  /** Reads anew what is shown. */
  const load = () => read([], rows.value?.length || size)
  const left = computed(() => total.value - (rows.value?.length ?? 0))
  /** Reads on, unless that is under way or nothing is left. */
  async function more() {
    if (!busy.value && rows.value && left.value > 0) await read(rows.value, rows.value.length + size)
  }
  whenAsked(asked, () => read([], size))
  load()
  return { rows, total, left, busy, error, load, more }
}
