<script setup lang="ts">
import { nextTick, ref, watch } from 'vue'
import { service, type FileDifference, type Version } from '../api'
import { when } from '../format'
import { t } from '../i18n'
import { attempt } from '../attempt'
import { drawPage, loadPages } from './pdf'

const props = defineProps<{ template: string }>()
const open = defineModel<boolean>({ required: true })
const versions = ref<Version[]>([])
const from = ref(0)
const to = ref(0)
const files = ref<FileDifference[]>([])
const pages = ref<{ differs: boolean }[]>([])
const busy = ref(false)
const canvases = ref<HTMLCanvasElement[]>([])
const width = 420

watch(open, async (now) => {
  if (!now) return
  versions.value = (await attempt(() => service.versions(props.template)))?.items ?? []
  to.value = versions.value[0]?.number ?? 0
  from.value = versions.value[1]?.number ?? to.value
  await compare()
})

/** the lines of a difference below its two file names, each with what it is */
const linesOf = (f: FileDifference) =>
  (f.lines ?? '')
    .split('\n')
    .slice(2)
    .map((l) => ({ text: l + '\n', kind: l.startsWith('+') ? 'plus' : l.startsWith('-') ? 'minus' : '' }))

/** sets both versions with the sample and draws each pair of pages; what differs is marked */
async function compare() {
  if (!from.value || !to.value) return
  busy.value = true
  await attempt(async () => {
    files.value = (await service.difference(props.template, from.value, to.value)).items
    const [a, b] = await Promise.all(
      [from.value, to.value].map(async (version) =>
        loadPages((await service.render({ template: props.template, version })).pdf),
      ),
    )
    pages.value = Array.from({ length: Math.min(Math.max(a.numPages, b.numPages), 12) }, () => ({ differs: false }))
    await nextTick()
    for (let i = 0; i < pages.value.length; i++) {
      const [left, right] = [canvases.value[2 * i], canvases.value[2 * i + 1]]
      for (const c of [left, right]) {
        c.width = 0
        c.height = 0
      }
      if (i < a.numPages) await drawPage(a, i + 1, left, width)
      if (i < b.numPages) await drawPage(b, i + 1, right, width)
      pages.value[i].differs = mark(left, right)
    }
    a.destroy()
    b.destroy()
  })
  busy.value = false
}

/** tints the cells of the right page that are not as on the left */
function mark(left: HTMLCanvasElement, right: HTMLCanvasElement): boolean {
  if (left.width !== right.width || left.height !== right.height) return true
  const pen = right.getContext('2d')!
  const a = left.getContext('2d')!.getImageData(0, 0, left.width, left.height).data
  const b = pen.getImageData(0, 0, left.width, left.height).data
  const cell = 8
  const found: [number, number][] = []
  for (let y = 0; y < left.height; y += cell) {
    cells: for (let x = 0; x < left.width; x += cell) {
      for (let v = y; v < Math.min(y + cell, left.height); v++) {
        for (let u = x; u < Math.min(x + cell, left.width); u++) {
          const k = (v * left.width + u) * 4
          if (Math.abs(a[k] - b[k]) + Math.abs(a[k + 1] - b[k + 1]) + Math.abs(a[k + 2] - b[k + 2]) > 60) {
            found.push([x, y])
            continue cells
          }
        }
      }
    }
  }
  pen.fillStyle = 'rgb(230 120 0 / 0.28)'
  for (const [x, y] of found) pen.fillRect(x - 1, y - 1, cell + 2, cell + 2)
  return found.length > 0
}
</script>

<template>
  <el-drawer v-model="open" size="min(1180px, 98vw)" :title="t('Compare')">
    <div class="pick">
      <el-select v-model="from" :aria-label="t('Versions')" @change="compare"
        ><el-option
          v-for="v in versions"
          :key="v.number"
          :value="v.number"
          :label="`${t('version {0}', v.number)} — ${v.note || when(v.created)}`"
      /></el-select>
      <span>→</span>
      <el-select v-model="to" :aria-label="t('Versions')" @change="compare"
        ><el-option
          v-for="v in versions"
          :key="v.number"
          :value="v.number"
          :label="`${t('version {0}', v.number)} — ${v.note || when(v.created)}`"
      /></el-select>
      <span v-if="busy" class="soft">{{ t('Setting …') }}</span>
    </div>
    <div class="both">
      <div v-for="(p, i) in pages" :key="i" class="pair" :class="{ differs: p.differs }" data-test="pair">
        <canvas ref="canvases" /><canvas ref="canvases" />
      </div>
    </div>
    <details v-for="f in files" :key="f.path" open>
      <summary>
        <b>{{ f.path }}</b> {{ f.change }}
      </summary>
      <pre class="mono"><span v-for="(l, i) in linesOf(f)" :key="i" :class="l.kind">{{ l.text }}</span></pre>
    </details>
  </el-drawer>
</template>

<style scoped>
.pick {
  display: flex;
  gap: 10px;
  align-items: center;
  margin-bottom: 16px;
}
.pick .el-select {
  width: 300px;
}
.pair {
  display: flex;
  gap: 16px;
  justify-content: center;
  padding: 14px;
  background: var(--desk);
  border-left: 4px solid transparent;
  margin-bottom: 12px;
}
.pair.differs {
  border-left-color: #e67800;
}
canvas {
  background: #fff;
  box-shadow: 0 2px 12px rgb(0 0 0 / 14%);
  max-width: 48%;
  height: auto !important;
  align-self: flex-start;
}
pre {
  overflow: auto;
  background: var(--paper);
  padding: 10px;
}
.plus {
  background: rgb(60 140 60 / 16%);
  display: block;
}
.minus {
  background: rgb(190 50 40 / 14%);
  display: block;
}
</style>
