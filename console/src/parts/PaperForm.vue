<script setup lang="ts">
import { computed, reactive, watch } from 'vue'
import type { Sheet } from '../api'
import { t } from '../i18n'
import PaperDrawing from './PaperDrawing.vue'
import {
  inWords,
  paperOf,
  papers,
  readPaper,
  samePaper,
  sideNames,
  sides,
  sizeOf,
  writePaper,
  type Paper,
} from './paper'

const props = defineProps<{ css: string; sheet?: Sheet }>()
const emit = defineEmits<{ change: [string] }>()

/** What paper.css says; without one, what the template's own rules have made of the first page. */
const given = computed(() => (props.css || !props.sheet ? readPaper(props.css) : paperOf(props.sheet)))
const paper = reactive<Paper>({ ...given.value })
let written = writePaper(paper)
const inEffect = computed(() => props.sheet && paperOf(props.sheet))
const other = computed(() => props.css && inEffect.value && !samePaper(inEffect.value, readPaper(props.css)))
const size = computed(() => sizeOf(paper))

watch(given, (now) => {
  if (writePaper(now) === written) return
  written = writePaper(now)
  Object.assign(paper, now)
})
watch(paper, () => {
  const css = writePaper(paper)
  if (css === written) return
  written = css
  emit('change', css)
})
</script>

<template>
  <div class="paper form">
    <p class="soft">{{ t('This form writes paper.css, plain CSS that you can read and change.') }}</p>
    <p v-if="inEffect" data-test="in-effect">
      {{ t('On the first page: {0}', inWords(inEffect)) }}
      <span v-if="!css" class="soft">{{ t('by the rules of the template') }}</span>
      <b v-else-if="other" class="bad">{{ t('another rule is stronger than this form') }}</b>
    </p>
    <PaperDrawing v-if="size" :size="size" :margins="paper" @move="(side, mm) => (paper[side] = mm)" />
    <label for="paper-size">{{ t('Page size') }}</label>
    <div class="row">
      <el-select id="paper-size" v-model="paper.size" filterable allow-create
        ><el-option v-for="(_, s) in papers" :key="s" :value="s" :label="s"
      /></el-select>
      <el-radio-group v-model="paper.landscape"
        ><el-radio-button :value="false">{{ t('Portrait') }}</el-radio-button
        ><el-radio-button :value="true">{{ t('Landscape') }}</el-radio-button></el-radio-group
      >
    </div>
    <label>{{ t('Margins') }} (mm)</label>
    <div class="row">
      <div v-for="side in sides" :key="side">
        <span class="soft small">{{ t(sideNames[side]) }}</span><el-input-number
          v-model="paper[side]"
          :min="0"
          :max="200"
          :controls="false"
          :aria-label="t(sideNames[side])"
        />
      </div>
    </div>
    <label for="paper-header">{{ t('Header') }}</label><el-input
      id="paper-header"
      v-model="paper.header"
      :placeholder="t('Your name | | {page} / {pages}')"
    />
    <label for="paper-footer">{{ t('Footer') }}</label><el-input id="paper-footer" v-model="paper.footer" />
    <p class="hint">{{ t('Text in a header or footer: left | middle | right, with {page} and {pages}.') }}</p>
    <label for="paper-mark">{{ t('Watermark') }}</label><el-input
      id="paper-mark"
      v-model="paper.watermark"
      placeholder="DRAFT"
    />
    <pre class="mono card">{{ writePaper(paper) }}</pre>
  </div>
</template>

<style scoped>
.paper {
  padding: 14px 20px 40px;
  overflow: auto;
  height: 100%;
  background: var(--card);
}
.row {
  display: flex;
  gap: 10px;
  flex-wrap: wrap;
  align-items: flex-end;
}
.row .el-select {
  width: 170px;
}
.row .el-input-number {
  width: 84px;
  display: block;
}
.bad {
  color: var(--bad);
}
pre {
  padding: 12px 14px;
  margin-top: 20px;
  white-space: pre-wrap;
}
</style>
