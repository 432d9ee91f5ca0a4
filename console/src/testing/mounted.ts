import { mount } from '@vue/test-utils'
import { defineComponent } from 'vue'

/** Runs a composable inside a component, as views do, and ends it with unmount. */
export function using<T>(compose: () => T) {
  let out!: T
  const wrapper = mount(
    defineComponent({
      setup() {
        out = compose()
        return () => null
      },
    }),
  )
  return { ...{ used: out }, unmount: () => wrapper.unmount() }
}
