<script setup lang="ts">
import { computed, nextTick, onBeforeUnmount, onMounted, ref } from 'vue'
import type { Finding, Sheet } from '../api'
import { t } from '../look'
import { drawPage, loadPages, textAt, type Pdf } from './pdf'

const props = defineProps<{ findings: Finding[]; sheets: Sheet[]; areas: boolean; breaks: boolean }>()
const emit = defineEmits<{ word: [{ word: string; run: string }]; finding: [Finding] }>()
const stage = ref<HTMLElement>()
const canvases = ref<HTMLCanvasElement[]>([])
const pages = ref(0)
const width = ref(560)
const most = 30
const shown = computed(() => Math.min(pages.value, most))
let pdf: Pdf | undefined

/** shows a document; the place in view stays, and the old pages until the new ones are drawn */
async function show(data: ArrayBuffer, wanted: () => boolean) {
  const next = await loadPages(data)
  if (!wanted()) return void next.destroy()
  const old = pdf
  pdf = next
  pages.value = next.numPages
  await draw()
  old?.destroy()
}

async function draw() {
  await nextTick()
  if (!pdf) return
  width.value = Math.max(240, Math.min((stage.value?.clientWidth ?? 640) - 56, 820))
  const top = stage.value?.scrollTop ?? 0
  for (let i = 0; i < shown.value; i++) await drawPage(pdf, i + 1, canvases.value[i], width.value)
  if (stage.value) stage.value.scrollTop = top
}

async function click(e: MouseEvent, page: number) {
  const box = (e.currentTarget as HTMLElement).getBoundingClientRect()
  const found = pdf && (await textAt(pdf, page, (e.clientX - box.left) / box.width, (e.clientY - box.top) / box.height))
  if (found) emit('word', found)
}

const percent = (r: number[] | undefined, s: Sheet | undefined) =>
  r && s
    ? {
        left: `${(r[0] / s.width) * 100}%`,
        top: `${(r[1] / s.height) * 100}%`,
        width: `${(r[2] / s.width) * 100}%`,
        height: `${(r[3] / s.height) * 100}%`,
      }
    : {}
const marks = (page: number) => props.findings.filter((f) => f.page === page && f.rect?.some((v) => v))
const asFinding = (s: Sheet, page: number): Finding => ({
  code: 'break',
  severity: 'note',
  message: s.break,
  file: s.file,
  line: s.line,
  column: s.column,
  page,
  advice: s.advice,
})
const resized = () => void draw()
onMounted(() => window.addEventListener('resize', resized))
onBeforeUnmount(() => {
  window.removeEventListener('resize', resized)
  pdf?.destroy()
})
defineExpose({ show, pages })
</script>

<template>
  <div ref="stage" class="stage" tabindex="0" :aria-label="t('Pages')">
    <div
      v-for="i in shown"
      :key="i"
      class="page"
      :title="t('Click a word on a page to find it in the source.')"
      @click="click($event, i)"
    >
      <canvas ref="canvases" :aria-label="`${t('Pages')} ${i}`" role="img" />
      <div v-if="areas && sheets[i - 1]" class="area" :style="percent(sheets[i - 1].area, sheets[i - 1])" />
      <div
        v-if="breaks && sheets[i - 1]?.break"
        class="ending"
        :style="{ top: `${(sheets[i - 1].end / sheets[i - 1].height) * 100}%` }"
      >
        <button
          :title="t('Go to it in the source')"
          data-test="ending"
          @click.stop="emit('finding', asFinding(sheets[i - 1], i))"
        >
          {{ sheets[i - 1].break }}<i v-if="sheets[i - 1].advice"> — {{ sheets[i - 1].advice }}</i>
        </button>
      </div>
      <button
        v-for="(f, k) in marks(i)"
        :key="k"
        class="mark"
        :class="f.severity"
        :style="percent(f.rect, sheets[i - 1])"
        :title="f.message"
        :aria-label="f.message"
        @click.stop="emit('finding', f)"
      />
    </div>
    <p v-if="pages > most" class="soft">{{ t('The first {0} of {1} pages are shown.', most, pages) }}</p>
  </div>
</template>

<style scoped>
.stage {
  flex: 1;
  overflow: auto;
  padding: 24px 28px;
  display: flex;
  flex-direction: column;
  align-items: center;
  gap: 22px;
}
.page {
  position: relative;
  flex: none;
  cursor: text;
  box-shadow: 0 2px 16px rgb(0 0 0 / 14%);
  background: #fff;
}
canvas {
  display: block;
}
.area {
  position: absolute;
  border: 1px dashed #1e6ea0;
  pointer-events: none;
}
.ending {
  position: absolute;
  left: 0;
  right: 0;
  border-top: 1.5px dotted #7a3c8c;
  pointer-events: none;
  text-align: right;
}
.ending button {
  font: inherit;
  font-size: 12px;
  line-height: 1.3;
  color: #5f2170;
  background: rgb(255 255 255 / 88%);
  border: 0;
  padding: 1px 8px 2px;
  max-width: 90%;
  text-align: right;
  pointer-events: auto;
  cursor: pointer;
}
.ending button:hover,
.ending button:focus-visible {
  text-decoration: underline;
}
.ending i {
  color: #6b5a70;
}
.mark {
  position: absolute;
  min-width: 8px;
  min-height: 8px;
  padding: 0;
  border: 1.5px solid #1e6ea0;
  background: rgb(30 110 160 / 10%);
  cursor: pointer;
}
.mark.warning {
  border-color: #be5a00;
  background: rgb(220 130 20 / 14%);
}
.mark.error {
  border-color: #b41414;
  background: rgb(200 30 30 / 14%);
}
</style>
