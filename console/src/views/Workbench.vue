<script setup lang="ts">
import { computed, nextTick, onBeforeUnmount, onMounted, reactive, ref, watch } from 'vue'
import { onBeforeRouteLeave } from 'vue-router'
import { ElMessage, ElMessageBox } from 'element-plus'
import { service, type FileBody, type Finding, type RecordSet, type TemplateVersion } from '../api'
import { drawPage, loadPages, type Pdf } from '../parts/pdf'
import CodeEditor from '../parts/CodeEditor.vue'
import MakeDocuments from '../parts/MakeDocuments.vue'

const props = defineProps<{ name: string }>()
const template = ref<TemplateVersion>()
const files = reactive<Record<string, FileBody>>({})
const open = ref('')
const record = ref('')
const changed = ref(false)
const error = ref('')
const failure = ref('') // why the preview could not be made
const findings = ref<Finding[]>([])
const pages = ref(0)
const took = ref(0)
const busy = ref(false)
const making = ref(false)
const sets = ref<RecordSet[]>([])
const stage = ref<HTMLElement>()
const canvases = ref<HTMLCanvasElement[]>([])
const width = ref(560)
let pdf: Pdf | undefined
let timer = 0
let turn = 0

// licences travel with their fonts; nobody edits them here
const textFiles = computed(() => Object.keys(files).filter((f) => files[f].text !== undefined && !/(^|\/)LICENSE/.test(f)).sort(order))
const recordTab = 'Record'

function order(a: string, b: string): number {
  const rank = (n: string) => (n === template.value?.manifest?.page ? 0 : n.endsWith('.css') ? 1 : n.endsWith('.yaml') ? 3 : 2)
  return rank(a) - rank(b) || a.localeCompare(b)
}

async function load() {
  try {
    const t = await service.template(props.name)
    template.value = t
    Object.keys(files).forEach((k) => delete files[k])
    Object.assign(files, t.files)
    open.value = t.manifest?.page ?? textFiles.value[0]
    const sample = t.manifest?.sample
    record.value = (sample && files[sample]?.text) || '{\n}\n'
    changed.value = false
    await show()
  } catch (e) {
    error.value = (e as Error).message
  }
}

const text = computed({
  get: () => (open.value === recordTab ? record.value : files[open.value]?.text ?? ''),
  set: (v: string) => {
    if (open.value === recordTab) record.value = v
    else {
      files[open.value] = { text: v }
      changed.value = true
    }
    clearTimeout(timer)
    timer = window.setTimeout(show, 120)
  },
})

async function show() {
  const mine = ++turn
  busy.value = true
  const start = performance.now()
  try {
    let data: unknown
    try {
      data = JSON.parse(record.value)
    } catch (e) {
      throw new Error(`The record is not JSON: ${(e as Error).message}`)
    }
    const out = await service.render({ template: props.name, files: { ...files }, record: data })
    if (mine !== turn) return
    const next = await loadPages(out.pdf)
    if (mine !== turn) return void next.destroy()
    const old = pdf
    pdf = next
    pages.value = next.numPages
    findings.value = out.findings
    failure.value = ''
    await draw()
    took.value = Math.round(performance.now() - start)
    old?.destroy()
  } catch (e) {
    if (mine === turn) failure.value = (e as Error).message
  } finally {
    if (mine === turn) busy.value = false
  }
}

async function draw() {
  await nextTick()
  if (!pdf) return
  width.value = Math.max(240, Math.min((stage.value?.clientWidth ?? 640) - 56, 820))
  for (let i = 0; i < Math.min(pages.value, 30); i++) await drawPage(pdf, i + 1, canvases.value[i], width.value)
}

async function publish() {
  try {
    const { value } = await ElMessageBox.prompt('What has changed? The note is kept with the version.', 'Publish a new version', {
      confirmButtonText: 'Publish', inputPlaceholder: 'New footer, wider margins …',
    })
    const out = await service.publish(props.name, { ...files }, value ?? '')
    changed.value = false
    template.value!.latest = template.value!.version = out.version
    ElMessage.success(`Version ${out.version} is published`)
  } catch (e) {
    if (e !== 'cancel' && e !== 'close') ElMessage.error((e as Error).message)
  }
}

async function make() {
  sets.value = (await service.recordSets()).items
  making.value = true
}

const resized = () => void draw()
const leaving = (e: BeforeUnloadEvent) => {
  if (changed.value) e.preventDefault()
}
onMounted(() => {
  load()
  window.addEventListener('resize', resized)
  window.addEventListener('beforeunload', leaving)
})
onBeforeUnmount(() => {
  window.removeEventListener('resize', resized)
  window.removeEventListener('beforeunload', leaving)
  clearTimeout(timer)
  pdf?.destroy()
})
onBeforeRouteLeave(async () => {
  if (!changed.value) return true
  return ElMessageBox.confirm('Your changes are not published. Leave them?', 'Unpublished changes', { confirmButtonText: 'Leave', cancelButtonText: 'Stay' }).then(() => true, () => false)
})
watch(() => props.name, load)
</script>

<template>
  <el-alert v-if="error" class="trouble" :title="error" type="error" :closable="false" show-icon />
  <div v-else class="bench">
    <div class="tools">
      <RouterLink to="/templates" class="back" aria-label="Back to the templates">←</RouterLink>
      <h1>{{ template?.title ?? name }}</h1>
      <span class="soft">version {{ template?.version }}</span>
      <el-tag v-if="changed" type="warning" effect="plain" size="small">changed</el-tag>
      <span class="grow" />
      <el-button :disabled="!changed" @click="publish">Publish</el-button>
      <el-button type="primary" @click="make">Make documents</el-button>
    </div>
    <section class="source" aria-label="Source">
      <div class="tabs" role="tablist">
        <button v-for="f in [...textFiles, recordTab]" :key="f" role="tab" :aria-selected="open === f" :class="{ here: open === f, mark: f === recordTab }" @click="open = f">{{ f }}</button>
      </div>
      <CodeEditor v-if="open" v-model="text" :file="open === recordTab ? 'record.json' : open" />
    </section>
    <section class="sheets" aria-label="Pages">
      <div class="status">
        <span v-if="failure" class="bad">Not up to date</span>
        <span v-else-if="pages" data-test="pages">{{ pages }} {{ pages === 1 ? 'page' : 'pages' }}</span>
        <span v-if="took && !failure" class="soft" data-test="took">shown in {{ took }} ms</span>
        <span class="grow" />
        <span v-if="busy" class="soft">Setting …</span>
        <el-popover v-if="findings.length" placement="bottom-end" :width="420" trigger="click">
          <template #reference><el-button size="small">{{ findings.length }} {{ findings.length === 1 ? 'finding' : 'findings' }}</el-button></template>
          <ul class="findings"><li v-for="(f, i) in findings" :key="i"><b>{{ f.severity }}</b> {{ f.message }} <span v-if="f.line" class="soft">{{ f.file }}, line {{ f.line }}</span></li></ul>
        </el-popover>
      </div>
      <el-alert v-if="failure" :title="failure" type="error" :closable="false" show-icon />
      <div ref="stage" class="stage" :class="{ stale: failure }">
        <canvas v-for="i in Math.min(pages, 30)" :key="i" ref="canvases" :aria-label="`Page ${i}`" role="img" />
        <p v-if="pages > 30" class="soft">The first 30 of {{ pages }} pages are shown.</p>
      </div>
    </section>
    <MakeDocuments v-model="making" :template="name" :sets="sets" :changed="changed" />
  </div>
</template>

<style scoped>
.bench { height: 100%; display: grid; grid-template: auto minmax(0, 1fr) / minmax(0, 46fr) minmax(0, 54fr); }
.trouble { margin: 32px; width: auto; }
.tools { grid-column: 1 / -1; display: flex; align-items: center; gap: 12px; padding: 10px 20px; border-bottom: 1px solid var(--line); background: #fff; }
.tools h1 { font-size: 18px; }
.back { text-decoration: none; color: var(--ink-soft); font-size: 20px; padding: 0 6px; }
.grow { flex: 1; }
.source { display: flex; flex-direction: column; min-height: 0; background: #fff; border-right: 1px solid var(--line); }
.tabs { display: flex; gap: 2px; padding: 6px 10px 0; border-bottom: 1px solid var(--line); overflow-x: auto; flex: none; }
.tabs button { border: 0; background: none; font: inherit; font-size: 13.5px; padding: 6px 8px 8px; color: var(--ink-soft); cursor: pointer; border-bottom: 2px solid transparent; white-space: nowrap; }
.tabs button.here { color: var(--olive-deep); border-color: var(--olive); font-weight: 600; }
.tabs button.mark { margin-left: auto; position: sticky; right: -10px; background: #fff; }
.sheets { display: flex; flex-direction: column; min-height: 0; background: #eceae1; }
.status { display: flex; align-items: center; gap: 14px; min-height: 41px; padding: 6px 16px; font-size: 13.5px; border-bottom: 1px solid var(--line); background: #f6f4ee; }
.bad { color: #b3261e; font-weight: 600; }
.stage { flex: 1; overflow: auto; padding: 24px 28px; display: flex; flex-direction: column; align-items: center; gap: 22px; }
.stage.stale { opacity: 0.55; }
canvas { background: #fff; box-shadow: 0 2px 16px rgb(0 0 0 / 14%); flex: none; }
.findings { margin: 0; padding-left: 18px; max-height: 320px; overflow: auto; }
@media (max-width: 900px) { .bench { grid-template: auto 45vh minmax(0, 1fr) / 1fr; } .source { border-right: 0; border-bottom: 1px solid var(--line); } }
</style>
