<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { AppliedRule, Probed } from '../api'
import { t } from '../i18n'
import BoxDrawing from './BoxDrawing.vue'
import type { Setting } from './sourceplaces'

const props = defineProps<{ path: Probed[]; editable: (file: string) => boolean }>()
const emit = defineEmits<{
  chosen: [Probed | undefined]
  place: [{ file: string; line: number }]
  set: [Setting]
  close: []
}>()

const at = ref(0) // in the path
watch(
  () => props.path.map((e) => e.element).join(' '),
  () => (at.value = props.path.length - 1),
  { immediate: true },
)
const element = computed(() => props.path[at.value])
watch(element, (e) => emit('chosen', e), { immediate: true })

const all = ref(false) // also the rules of the default style
const rules = computed(() => element.value?.rules.filter((r) => all.value || r.origin !== 'default') ?? [])
const heads: Record<AppliedRule['origin'], string> = {
  page: '',
  user: '',
  default: 'default style',
  inline: 'style attribute',
  attributes: 'attributes of the element',
}
const fates = {
  won: 'takes effect',
  partly: 'another rule sets some of what it stands for',
  lost: 'a stronger rule wins',
  dropped: 'not understood, and left out',
}

/** Whether a declaration can be changed here: its file is one of the template, and its place is known. */
const open = (r: AppliedRule, line?: number) => !!r.file && !!line && props.editable(r.file)
function change(r: AppliedRule, d: AppliedRule['declarations'][number], event: Event) {
  const value = (event.target as HTMLInputElement).value.trim()
  if (value && value !== d.value)
    emit('set', { file: r.file!, line: d.line!, column: d.column!, property: d.property, before: d.value, value })
}
</script>

<template>
  <section class="element" :aria-label="t('What stands here')" data-test="element">
    <div class="path">
      <template v-for="(e, i) in path" :key="i">
        <span v-if="i" class="soft">›</span>
        <button class="textLink mono" :class="{ now: i === at }" :aria-current="i === at" @click="at = i">
          {{ e.element }}
        </button>
      </template>
      <span v-if="!path.length" class="soft">{{
        t('Click on a page. What stands in its margins comes from @page rules.')
      }}</span>
      <span class="grow" />
      <button class="textLink" :aria-label="t('Close')" @click="emit('close')">×</button>
    </div>
    <div v-if="element" class="parts">
      <div class="rules">
        <p v-if="!rules.length" class="soft small">{{ t('No rule of the page holds for it.') }}</p>
        <div v-for="(r, i) in rules" :key="i" class="rule">
          <div class="selector">
            <span class="mono">{{ heads[r.origin] ? t(heads[r.origin]) : r.selector }}</span>
            <button
              v-if="r.file && r.line"
              class="textLink small"
              @click="emit('place', { file: r.file!, line: r.line! })"
            >
              {{ r.file }}:{{ r.line }}
            </button>
          </div>
          <div
            v-for="(d, k) in r.declarations"
            :key="k"
            class="declaration mono"
            :class="d.fate"
            :title="t(fates[d.fate])"
          >
            <span>{{ d.property }}:</span>
            <input
              v-if="open(r, d.line) && d.fate !== 'lost'"
              :value="d.value"
              :size="Math.max(4, d.value.length)"
              :aria-label="d.property"
              spellcheck="false"
              @change="change(r, d, $event)"
            />
            <span v-else>{{ d.value }}</span>
            <span v-if="d.important">!important</span>
            <span v-if="d.fate === 'dropped' || d.fate === 'partly'" class="why">{{ t(fates[d.fate]) }}</span>
          </div>
        </div>
        <el-checkbox v-model="all" size="small">{{ t('Default style too') }}</el-checkbox>
      </div>
      <div class="side">
        <BoxDrawing v-if="element.box.some((v) => v)" :element="element" />
        <p v-else class="soft small none">{{ t('It has no box of its own here.') }}</p>
        <button
          v-if="element.file && element.line"
          class="textLink small"
          data-test="element-source"
          @click="emit('place', { file: element.file!, line: element.line! })"
        >
          {{ t('In the source: {0}', `${element.file}:${element.line}`) }}
        </button>
      </div>
    </div>
  </section>
</template>

<style scoped>
.element {
  flex: none;
  display: flex;
  flex-direction: column;
  height: 44%;
  min-height: 180px;
  background: var(--card);
  border-top: 1px solid var(--line);
  font-size: 13px;
}
.path {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 2px 7px;
  padding: 7px 14px;
  border-bottom: 1px solid var(--line);
}
.path .textLink {
  font-weight: 400;
}
.path .now {
  font-weight: 700;
}
.parts {
  flex: 1;
  min-height: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 14px 22px;
  padding: 10px 14px;
  overflow: auto;
}
.rules {
  flex: 1 1 300px;
  min-width: 0;
}
.side {
  display: flex;
  flex-direction: column;
  gap: 8px;
}
.none {
  width: 290px;
  margin: 0;
}
.rule {
  padding: 0 0 9px;
}
.selector {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  font-weight: 600;
}
.declaration {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 0 6px;
  padding-left: 14px;
}
.lost,
.dropped {
  color: var(--ink-soft);
}
.lost span,
.dropped > span:not(.why) {
  text-decoration: line-through;
}
.why {
  font-family: var(--sans, inherit);
  font-size: 12px;
  color: var(--bad);
}
.partly .why {
  color: var(--ink-soft);
}
input {
  font: inherit;
  color: inherit;
  background: none;
  border: 0;
  border-bottom: 1px dotted var(--ink-soft);
  padding: 0;
  max-width: 100%;
}
</style>
