<script setup lang="ts">
import { computed, nextTick, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import type { Finding, Probed, Sheet } from '../api'
import { t } from '../i18n'
import { boxesOf, boxParts } from './boxes'
import { findOn, type Hit } from './finding'
import { drawPage, loadPages, pageSize, stretchesOf, textAt, type Pdf } from './pdf'

const props = withDefaults(
  defineProps<{
    findings?: Finding[]
    sheets?: Sheet[]
    areas?: boolean
    breaks?: boolean
    zoom?: number
    asking?: boolean // a click asks what stands there, and does not look for the word
    marked?: { page: number; element: Probed }
    hits?: Hit[]
    hit?: number // the one of them that is looked at
  }>(),
  { findings: () => [], sheets: () => [], zoom: 0, marked: undefined, hits: () => [], hit: 0 },
)
const emit = defineEmits<{
  word: [{ word: string; run: string }]
  point: [{ page: number; x: number; y: number }] // in px of the sheet
  finding: [Finding]
  page: [number]
  shown: []
}>()
const stage = ref<HTMLElement>()
const canvases = ref<HTMLCanvasElement[]>([])
const pages = ref(0)
const room = ref(640) // for the widest page, in CSS px
const first = ref({ width: 1, height: 1 }) // size of the first page in CSS px, which stands for those not drawn yet
let pdf: Pdf | undefined
let turn = 0
let drawn = new Map<number, string>() // pages by what they were drawn for

/** How wide a page is shown: as the zoom says, or so that it fits. */
const width = computed(() => Math.round(props.zoom ? first.value.width * props.zoom : fitting.value))
const fitting = computed(() => Math.max(240, Math.min(room.value - 56, 820)))

/** Shows a document. The place in view stays, and the old pages until the new ones are drawn. */
async function show(data: ArrayBuffer, wanted: () => boolean) {
  const next = await loadPages(data)
  if (!wanted()) return void next.destroy()
  const old = pdf
  pdf = next
  turn++
  first.value = await pageSize(next, 1)
  pages.value = next.numPages
  await draw()
  old?.destroy()
  emit('shown')
}

/** Finds text on all pages. */
async function find(wanted: string): Promise<Hit[]> {
  const hits: Hit[] = []
  const from = pdf
  for (let i = 1; from && i <= from.numPages; i++) {
    hits.push(...findOn(i, await stretchesOf(from, i), wanted))
    if (from !== pdf) return find(wanted) // other pages are shown by now
  }
  return hits
}

/** Draws the pages in view, and those that come next. */
async function draw() {
  await nextTick()
  room.value = stage.value?.clientWidth ?? room.value
  await nextTick()
  for (let i = 0; pdf && i < pages.value; i++) {
    const what = `${turn} ${width.value}`
    if (drawn.get(i) === what || !near(canvases.value[i])) continue
    drawn.set(i, what)
    await drawPage(pdf, i + 1, canvases.value[i], width.value)
  }
}

/** Whether an element is less than a view away from what is seen. */
function near(e: HTMLElement): boolean {
  const view = stage.value!.getBoundingClientRect()
  const box = e.getBoundingClientRect()
  return box.bottom > view.top - view.height && box.top < view.bottom + view.height
}

let waiting = 0
function scrolled() {
  cancelAnimationFrame(waiting)
  waiting = requestAnimationFrame(() => {
    draw()
    emit('page', pageInView())
  })
}
function pageInView(): number {
  const middle = stage.value!.getBoundingClientRect().top + stage.value!.clientHeight / 2
  const at = canvases.value.findIndex((c) => c.getBoundingClientRect().bottom > middle)
  return at < 0 ? pages.value : at + 1
}
function goTo(page: number) {
  canvases.value[page - 1]?.scrollIntoView({ block: 'start' })
}

async function click(e: MouseEvent, page: number) {
  const box = (e.currentTarget as HTMLElement).getBoundingClientRect()
  const across = (e.clientX - box.left) / box.width
  const down = (e.clientY - box.top) / box.height
  if (props.asking) {
    const s = props.sheets[page - 1]
    if (s) emit('point', { page, x: across * s.width, y: down * s.height })
    return
  }
  const found = pdf && (await textAt(pdf, page, across, down))
  if (found) emit('word', found)
}

const height = (page: number) => {
  const s = props.sheets[page - 1] ?? first.value
  return `${(width.value * s.height) / s.width}px`
}
const percent = (r: number[] | undefined, s: Pick<Sheet, 'width' | 'height'> | undefined) =>
  r && s
    ? {
        left: `${(r[0] / s.width) * 100}%`,
        top: `${(r[1] / s.height) * 100}%`,
        width: `${(r[2] / s.width) * 100}%`,
        height: `${(r[3] / s.height) * 100}%`,
      }
    : {}
/** Findings with a place on a page, with their numbers in the list. */
const marks = (page: number) =>
  props.findings
    .map((finding, i) => ({ finding, number: i + 1 }))
    .filter(({ finding: f }) => f.page === page && f.rect?.some((v) => v))
/** What was found on a page: a box for each stretch of it. */
const found = (page: number) =>
  props.hits.flatMap((hit, i) => (hit.page === page ? hit.boxes.map((box) => ({ box, looked: i === props.hit })) : []))
const whole = { width: 1, height: 1 }
/** Brings what was found into view. */
async function lookAt(hit: Hit) {
  await nextTick()
  const page = canvases.value[hit.page - 1]
  const box = page?.parentElement?.querySelector('.hit.looked') ?? page
  box?.scrollIntoView({ block: 'center' })
}
/** The parts of the marked box that lie on a page. */
const parts = (page: number) => {
  if (props.marked?.page !== page || !props.marked.element.box.some((v) => v)) return []
  const boxes = boxesOf(props.marked.element)
  return boxParts.map((name) => ({ name, rect: boxes[name] }))
}
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

watch(() => props.zoom, draw)
const resized = new ResizeObserver(() => void draw())
onMounted(() => resized.observe(stage.value!))
onBeforeUnmount(() => {
  resized.disconnect()
  cancelAnimationFrame(waiting)
  pdf?.destroy()
  drawn = new Map()
})
const scale = computed(() => width.value / first.value.width)
defineExpose({ show, pages, scale, goTo, find, lookAt })
</script>

<template>
  <div ref="stage" class="stage" tabindex="0" role="group" :aria-label="t('Pages')" @scroll.passive="scrolled">
    <div
      v-for="i in pages"
      :key="i"
      class="page"
      :class="{ asking }"
      :title="asking ? undefined : t('Click a word on a page to find it in the source.')"
      @click="click($event, i)"
    >
      <canvas
        ref="canvases"
        :aria-label="`${t('Page')} ${i}`"
        role="img"
        :style="{ width: `${width}px`, height: height(i) }"
      />
      <div
        v-for="p in parts(i)"
        :key="p.name"
        class="box"
        :class="p.name"
        :style="percent(p.rect, sheets[i - 1])"
        data-test="box"
      />
      <div
        v-for="(h, n) in found(i)"
        :key="`hit ${n}`"
        class="hit"
        :class="{ looked: h.looked }"
        :style="percent(h.box, whole)"
        data-test="hit"
      />
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
        v-for="m in marks(i)"
        :key="m.number"
        class="mark"
        :class="m.finding.severity"
        :style="percent(m.finding.rect, sheets[i - 1])"
        :title="m.finding.message"
        :aria-label="`${m.number}: ${m.finding.message}`"
        @click.stop="emit('finding', m.finding)"
      >
        <b>{{ m.number }}</b>
      </button>
    </div>
  </div>
</template>

<style scoped>
.stage {
  flex: 1;
  overflow: auto;
  padding: 24px 28px;
  display: flex;
  flex-direction: column;
  align-items: safe center;
  gap: 22px;
}
.page {
  position: relative;
  flex: none;
  cursor: text;
  box-shadow: 0 2px 16px rgb(0 0 0 / 14%);
  background: #fff;
}
.asking {
  cursor: crosshair;
}
.asking .mark {
  pointer-events: none;
}
.box {
  position: absolute;
  pointer-events: none;
  mix-blend-mode: multiply; /* what is printed stays as dark as it is */
}
.box.margin {
  outline: 1px dashed #8a7a3c;
  background: rgb(190 165 60 / 14%);
}
.box.border {
  outline: 1.5px solid #55682f;
}
.box.padding {
  background: rgb(85 104 47 / 14%);
}
.box.content {
  outline: 1px dotted #55682f;
}
.hit {
  position: absolute;
  pointer-events: none;
  mix-blend-mode: multiply;
  background: #ffe78a;
}
.hit.looked {
  background: #ffb84d;
  outline: 1.5px solid #8a4b00;
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
.mark b {
  position: absolute;
  right: 100%;
  top: -1px;
  margin-right: 2px;
  padding: 0 4px;
  border-radius: 8px;
  font: 600 10.5px/15px inherit;
  color: #fff;
  background: #1e6ea0;
}
.mark.warning b {
  background: #9a4a00;
}
.mark.error b {
  background: #b41414;
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
