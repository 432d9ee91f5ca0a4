<script setup lang="ts">
import { reactive, watch } from 'vue'
import { t } from '../i18n'
import { readPaper, writePaper, type Paper } from './paper'

const props = defineProps<{ css: string }>()
const emit = defineEmits<{ change: [string] }>()
const paper = reactive<Paper>(readPaper(props.css))
const sizes = ['A3', 'A4', 'A5', 'A6', 'B5', 'letter', 'legal', 'ledger']
const sides = [
  ['top', 'Top'],
  ['right', 'Right'],
  ['bottom', 'Bottom'],
  ['left', 'Left'],
] as const

watch(
  () => props.css,
  (css) => {
    if (css !== writePaper(paper)) Object.assign(paper, readPaper(css))
  },
)
watch(paper, () => emit('change', writePaper(paper)))
</script>

<template>
  <div class="paper form">
    <p class="soft">{{ t('This form writes paper.css, plain CSS that you can read and change.') }}</p>
    <label for="paper-size">{{ t('Page size') }}</label>
    <div class="row">
      <el-select id="paper-size" v-model="paper.size" filterable allow-create
        ><el-option v-for="s in sizes" :key="s" :value="s" :label="s"
      /></el-select>
      <el-radio-group v-model="paper.landscape"
        ><el-radio-button :value="false">{{ t('Portrait') }}</el-radio-button
        ><el-radio-button :value="true">{{ t('Landscape') }}</el-radio-button></el-radio-group
      >
    </div>
    <label>{{ t('Margins') }} (mm)</label>
    <div class="row">
      <div v-for="[side, label] in sides" :key="side">
        <span class="soft small">{{ t(label) }}</span><el-input-number
          v-model="paper[side]"
          :min="0"
          :max="200"
          :controls="false"
          :aria-label="t(label)"
        />
      </div>
    </div>
    <label for="paper-header">{{ t('Header') }}</label><el-input
      id="paper-header"
      v-model="paper.header"
      placeholder="Quay & Lantern Harbour | | {page} / {pages}"
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
pre {
  padding: 12px 14px;
  margin-top: 20px;
  white-space: pre-wrap;
}
</style>
