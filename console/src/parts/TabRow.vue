<script setup lang="ts" generic="Key extends string">
import { nextTick, ref } from 'vue'

// Tabs that arrow keys go through (ARIA Authoring Practices, tabs).
const props = defineProps<{ tabs: { key: Key; label: string }[]; label: string; pills?: boolean }>()
const open = defineModel<Key>({ required: true })
const row = ref<HTMLElement>()

async function go(e: KeyboardEvent) {
  const at = props.tabs.findIndex((x) => x.key === open.value)
  const to = { ArrowRight: at + 1, ArrowLeft: at - 1, Home: 0, End: -1 }[e.key]
  if (to === undefined) return
  e.preventDefault()
  open.value = props.tabs.at(to % props.tabs.length)!.key
  await nextTick()
  row.value?.querySelector<HTMLElement>('[aria-selected=true]')?.focus()
}
</script>

<template>
  <div ref="row" :class="pills ? 'pills' : 'tabs'" role="tablist" :aria-label="label" @keydown="go">
    <button
      v-for="x in tabs"
      :key="x.key"
      role="tab"
      :aria-selected="x.key === open"
      :tabindex="x.key === open ? 0 : -1"
      :class="{ here: x.key === open }"
      @click="open = x.key"
    >
      {{ x.label }}
    </button>
  </div>
</template>

<style scoped>
div {
  display: flex;
  flex: none;
  overflow-x: auto;
  min-width: 0;
}
button {
  border: 0;
  background: none;
  font: inherit;
  color: var(--ink-soft);
  cursor: pointer;
  white-space: nowrap;
}
.tabs {
  gap: 2px;
}
.tabs button {
  font-size: 13.5px;
  padding: 6px 8px 8px;
  border-bottom: 2px solid transparent;
}
.tabs .here {
  color: var(--olive-deep);
  border-color: var(--olive);
  font-weight: 600;
}
.pills {
  gap: 6px;
}
.pills button {
  font-size: 13px;
  padding: 1px 9px 2px;
  border: 1px solid transparent;
  border-radius: 12px;
}
.pills .here {
  background: var(--card);
  border-color: var(--line);
  color: var(--ink);
}
</style>
