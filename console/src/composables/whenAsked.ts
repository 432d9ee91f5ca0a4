import { watch, type Ref } from 'vue'

/** Begins again a moment after the last change of what is asked for: typing asks once. */
export function whenAsked(asked: Ref<unknown>[], again: () => void) {
  let timer = 0
  watch(asked, () => {
    clearTimeout(timer)
    timer = window.setTimeout(again, 180)
  })
}
