<script setup lang="ts">
import { computed, ref } from 'vue'
import { t } from '../i18n'
import { functions } from './functions'
import { fieldsOf, placing, type Field } from './recordfields'

const props = defineProps<{ record: string }>()
const emit = defineEmits<{ place: [string] }>()
const wanted = ref('')

const parsed = computed(() => {
  try {
    return JSON.parse(props.record)
  } catch {
    return {} // the preview tells what is wrong with it
  }
})
const has = (text: string) => text.toLowerCase().includes(wanted.value.trim().toLowerCase())
const fields = computed(() => fieldsOf(parsed.value).filter((f) => has(f.path) || has(f.value)))
const named = computed(() => functions.filter(([name, about]) => has(name) || has(about)))

const held = (f: Field) => (!f.list ? f.value : f.value === '1' ? t('1 entry') : t('{0} entries', f.value))

function drag(e: DragEvent, text: string) {
  e.dataTransfer?.setData('text/plain', text)
}
</script>

<template>
  <aside class="palette" :aria-label="t('Fields and functions')">
    <el-input v-model="wanted" size="small" clearable :placeholder="t('Find')" :aria-label="t('Find')" />
    <h2>{{ t('Fields') }}</h2>
    <ul>
      <li v-for="(f, i) in fields" :key="i" :style="{ paddingLeft: `${f.depth * 14}px` }">
        <button
          draggable="true"
          :title="placing(f)"
          @click="emit('place', placing(f))"
          @dragstart="drag($event, placing(f))"
        >
          <code>{{ f.path }}</code>
          <span class="soft">{{ held(f) }}</span>
        </button>
      </li>
      <li v-if="!fields.length" class="soft small">{{ t('Nothing matches') }}</li>
    </ul>
    <h2>{{ t('Functions') }}</h2>
    <ul>
      <li v-for="[name, about] in named" :key="name">
        <button
          draggable="true"
          :title="about"
          @click="emit('place', `{{${name} }}`)"
          @dragstart="drag($event, `{{${name} }}`)"
        >
          <code>{{ name }}</code> <span class="soft">{{ about }}</span>
        </button>
      </li>
    </ul>
  </aside>
</template>

<style scoped>
.palette {
  padding: 8px 12px;
  border-bottom: 1px solid var(--line);
  background: var(--paper);
  max-height: 42%;
  overflow: auto;
  flex: none;
}
h2 {
  margin: 10px 0 2px;
  font-size: 12.5px;
  color: var(--ink-soft);
}
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
button {
  display: flex;
  gap: 10px;
  width: 100%;
  padding: 2px 6px;
  border: 0;
  border-radius: 4px;
  background: none;
  font: inherit;
  font-size: 13px;
  color: inherit;
  text-align: left;
  cursor: pointer;
}
button:hover,
button:focus-visible {
  background: color-mix(in srgb, var(--olive) 12%, transparent);
}
button .soft {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
code {
  flex: none;
  min-width: 150px;
  font-family: 'DejaVu Sans Mono', ui-monospace, Menlo, Consolas, monospace;
  font-size: 12.5px;
}
</style>
