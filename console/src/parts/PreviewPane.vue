<script setup lang="ts">
import { ref } from 'vue'
import type { Finding, Probed, Rendering } from '../api'
import { usePreview } from '../composables/usePreview'
import { t } from '../i18n'
import ElementPanel from './ElementPanel.vue'
import FindingList from './FindingList.vue'
import type { Hit } from './finding'
import PageView from './PageView.vue'
import type { Setting } from './sourceplaces'

const props = withDefaults(
  defineProps<{ ask: () => Rendering; label: string; editable?: (file: string) => boolean }>(),
  { editable: () => false },
)
const emit = defineEmits<{
  word: [{ word: string; run: string }]
  finding: [Finding]
  place: [{ file: string; line: number }]
  set: [Setting]
}>()

const view = ref<InstanceType<typeof PageView>>()
const { failure, findings, sheets, probe, probed, merged, pages, took, busy, show, soon } = usePreview(
  () => props.ask(),
  async (pdf, wanted) => view.value?.show(pdf, wanted),
)
const areas = ref(false)
const breaks = ref(false)
const listing = ref(false)
const asking = ref(false) // a click on a page asks what stands there
const shown = ref<Probed>() // the element that is marked on the page

/** Asks what stands at a point; the pages are set once more with the question. */
function askAt(at: { page: number; x: number; y: number }) {
  probe.value = at
  show()
}
function stopAsking() {
  asking.value = false
  probe.value = undefined
  probed.value = []
  shown.value = undefined
}

const zoom = ref(0) // 0 for as wide as fits
const steps = [0.25, 0.33, 0.5, 0.67, 0.75, 0.9, 1, 1.25, 1.5, 2, 3]
function closer(by: 1 | -1) {
  const now = view.value?.scale ?? 1
  const next = by > 0 ? steps.find((s) => s > now + 0.01) : steps.findLast((s) => s < now - 0.01)
  zoom.value = next ?? zoom.value
}

const page = ref(1)
function turnTo(wanted: number | undefined) {
  if (wanted) view.value?.goTo(wanted)
}
// text that is looked for on the pages
const sought = ref('')
const hits = ref<Hit[]>([])
const hit = ref(0)
async function find() {
  hits.value = sought.value.trim() ? ((await view.value?.find(sought.value)) ?? []) : []
  hit.value = Math.min(hit.value, Math.max(hits.value.length - 1, 0))
}
async function seek() {
  hit.value = 0
  await find()
  if (hits.value.length) view.value?.lookAt(hits.value[0])
}
function nextHit(by: 1 | -1) {
  const n = hits.value.length
  if (!n) return
  hit.value = (hit.value + by + n) % n
  view.value?.lookAt(hits.value[hit.value])
}

function choose(f: Finding) {
  listing.value = true
  emit('finding', f)
}
defineExpose({ show, soon, findings, failure, sheets, merged })
</script>

<template>
  <section class="sheets" :aria-label="label">
    <slot />
    <div class="status">
      <span v-if="failure" class="bad">{{ t('Not up to date') }}</span>
      <span v-else-if="pages" data-test="pages">{{ pages === 1 ? t('1 page') : t('{0} pages', pages) }}</span>
      <span v-if="took && !failure" class="soft" :title="t('shown in {0} ms', took)" data-test="took"
        >{{ took }} ms</span
      >
      <span v-if="busy" class="soft" data-test="busy">{{ t('Setting …') }}</span>
      <span class="grow" />
      <label v-if="pages > 2" class="turn">
        {{ t('Page') }}
        <el-input-number
          :model-value="page"
          size="small"
          :min="1"
          :max="pages"
          :controls="false"
          :aria-label="t('Go to page')"
          data-test="turn"
          @change="turnTo"
        />
      </label>
      <span v-if="pages" class="seek" role="search">
        <el-input
          v-model="sought"
          size="small"
          clearable
          :placeholder="t('Find')"
          :aria-label="t('Find on the pages')"
          data-test="seek"
          @input="seek"
          @keydown.enter.exact.prevent="nextHit(1)"
          @keydown.enter.shift.prevent="nextHit(-1)"
        />
        <span v-if="sought.trim()" class="soft" role="status" data-test="hits">{{
          hits.length ? t('{0} of {1}', hit + 1, hits.length) : t('not there')
        }}</span>
        <template v-if="hits.length > 1">
          <el-button size="small" text :aria-label="t('The one before')" @click="nextHit(-1)">↑</el-button>
          <el-button size="small" text :aria-label="t('The next one')" data-test="nextHit" @click="nextHit(1)"
            >↓</el-button
          >
        </template>
      </span>
      <span v-if="pages" class="zoom">
        <el-button size="small" text :aria-label="t('Smaller')" data-test="smaller" @click="closer(-1)">−</el-button>
        <button class="textLink small" :title="t('As wide as fits')" data-test="fit" @click="zoom = 0">
          {{ Math.round((view?.scale ?? 1) * 100) }} %
        </button>
        <el-button size="small" text :aria-label="t('Larger')" data-test="larger" @click="closer(1)">+</el-button>
      </span>
      <el-checkbox v-model="areas" size="small">{{ t('Page areas') }}</el-checkbox>
      <el-checkbox
        :model-value="asking"
        size="small"
        data-test="ask"
        @change="(v: string | number | boolean) => (v ? (asking = true) : stopAsking())"
        >{{ t('Inspect') }}</el-checkbox
      >
      <el-checkbox v-model="breaks" size="small" data-test="breaks">{{ t('Breaks') }}</el-checkbox>
      <el-button v-if="findings.length" size="small" data-test="findings" @click="listing = !listing">
        {{ findings.length }} {{ t('findings') }}
      </el-button>
    </div>
    <el-alert v-if="failure" :title="failure" type="error" :closable="false" show-icon />
    <FindingList v-if="listing && findings.length" :findings="findings" @chosen="choose" />
    <PageView
      ref="view"
      :class="{ stale: failure }"
      :findings="findings"
      :sheets="sheets"
      :areas="areas"
      :breaks="breaks"
      :zoom="zoom"
      :hits="hits"
      :hit="hit"
      :asking="asking"
      :marked="shown && probe ? { page: probe.page, element: shown } : undefined"
      @point="askAt"
      @word="(w) => emit('word', w)"
      @finding="choose"
      @page="(n) => (page = n)"
      @shown="find"
    />
    <ElementPanel
      v-if="asking"
      :path="probed"
      :editable="editable"
      @chosen="(e) => (shown = e)"
      @place="(at) => emit('place', at)"
      @set="(s) => emit('set', s)"
      @close="stopAsking"
    />
  </section>
</template>

<style scoped>
.sheets {
  display: flex;
  flex-direction: column;
  min-height: 0;
  min-width: 0;
  background: var(--desk);
}
.status {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0 14px;
  white-space: nowrap;
  min-height: 41px;
  padding: 4px 16px;
  font-size: 13.5px;
  border-bottom: 1px solid var(--line);
  background: var(--paper);
}
.turn .el-input-number {
  width: 54px;
}
.seek {
  display: inline-flex;
  align-items: center;
  gap: 4px;
  font-variant-numeric: tabular-nums;
}
.seek .el-input {
  width: 96px;
}
.status .el-checkbox {
  margin: 0;
}
.seek .el-button {
  margin: 0;
  padding: 5px 7px;
}
.zoom {
  display: inline-flex;
  align-items: center;
}
.zoom .el-button {
  margin: 0;
  padding: 5px 9px;
}
.zoom .textLink {
  min-width: 46px;
  text-align: center;
  font-variant-numeric: tabular-nums;
}
.bad {
  color: var(--bad);
  font-weight: 600;
}
.stale {
  opacity: 0.55;
}
</style>
