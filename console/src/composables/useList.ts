import { ref, watch, type Ref } from 'vue'
import type { List } from '../api'
import { whenAsked } from './whenAsked'

/** A list that is read page by page; it is read anew when what is asked for changes */
export function useList<T>(get: (offset: number, limit: number) => Promise<List<T>>, asked: Ref<unknown>[], size = 20) {
  const rows = ref<T[]>() as Ref<T[] | undefined>
  const total = ref(0)
  const page = ref(1)
  const error = ref('')
  let turn = 0
  async function load() {
    const mine = ++turn
    try {
      const out = await get((page.value - 1) * size, size)
      if (mine !== turn) return
      rows.value = out.items
      total.value = out.total
      error.value = ''
    } catch (e) {
      if (mine === turn) error.value = (e as Error).message
    }
  }
  whenAsked(asked, () => {
    page.value = 1
    load()
  })
  watch(page, load)
  load()
  return { rows, total, page, error, load, size }
}
