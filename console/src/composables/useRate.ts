import { computed, ref, shallowRef } from 'vue'
import type { Batch } from '../api'

const span = 20_000 // milliseconds that a rate is taken over

/** How fast a batch goes, and how long it will take, from what is told of it while it is followed. */
export function useRate(now: () => number = () => performance.now()) {
  const seen = shallowRef<{ at: number; ended: number }[]>([])
  const left = ref(0) // documents
  const running = ref(false)

  function tell(b: Batch) {
    const at = now()
    const ended = b.done + b.failed
    running.value = b.state === 'running'
    left.value = b.total - ended
    const last = seen.value.at(-1)
    const anew = !running.value || (last && ended < last.ended) // paused, or failures have another turn
    const before = anew ? [] : seen.value.filter((s) => at - s.at < span)
    seen.value = running.value ? [...before, { at, ended }] : []
  }
  function forget() {
    seen.value = []
    running.value = false
  }

  /** Documents a second; undefined until it can be told. */
  const rate = computed(() => {
    const [first, last] = [seen.value[0], seen.value.at(-1)]
    if (!running.value || !first || !last || last.at - first.at < 1000 || last.ended === first.ended) return undefined
    return ((last.ended - first.ended) / (last.at - first.at)) * 1000
  })
  /** Seconds until it is done. */
  const seconds = computed(() => (rate.value ? left.value / rate.value : undefined))
  return { tell, forget, rate, seconds }
}
