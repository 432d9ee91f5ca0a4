<script setup lang="ts">
import { computed, nextTick, onBeforeUnmount, onMounted, reactive, ref, watch } from 'vue'
import { ElMessage, ElMessageBox } from 'element-plus'
import {
  Problem,
  service,
  session,
  type FileBody,
  type Finding,
  type RecordSet,
  type Sheet,
  type TemplateFiles,
} from '../api'
import { t } from '../look'
import { attempt } from '../use'
import CodeEditor, { type Mark } from '../parts/CodeEditor.vue'
import CompareVersions from '../parts/CompareVersions.vue'
import PageView from '../parts/PageView.vue'
import PaperForm from '../parts/PaperForm.vue'
import StartBatch from '../parts/StartBatch.vue'

const props = defineProps<{ name: string }>()
const template = ref<TemplateFiles>()
const files = reactive<Record<string, FileBody>>({})
const revision = ref(0) // of the draft; 0 while there is none
const open = ref('')
const record = ref('')
const changed = ref(false) // against the published version
const unsaved = ref(false) // against the draft
const error = ref('')
const failure = ref('') // why the preview could not be made
const findings = ref<Finding[]>([])
const sheets = ref<Sheet[]>([])
const merged = ref('')
const pages = ref(0)
const took = ref(0)
const busy = ref(false)
const making = ref(false)
const comparing = ref(false)
const areas = ref(false)
const breaks = ref(false)
const listing = ref(false)
const sets = ref<RecordSet[]>([])
const source = ref({ set: 0, number: 1, count: 1 })
const view = ref<InstanceType<typeof PageView>>()
const editor = ref<InstanceType<typeof CodeEditor>>()
const adding = ref<HTMLInputElement>()
let timer = 0
let saving = 0
let turn = 0
let again = false // something has changed while pages were being set

const recordTab = 'Record'
const paperTab = 'Paper'
const assetTab = 'Assets'
const htmlTab = 'Merged HTML'
const paperFile = 'paper.css'
// licences travel with their fonts; nobody edits them here
const textFiles = computed(() =>
  Object.keys(files)
    .filter((f) => files[f].text !== undefined && !/(^|\/)LICENSE/.test(f))
    .sort(order),
)
const assets = computed(() =>
  Object.keys(files)
    .filter((f) => files[f].base64 !== undefined)
    .sort(),
)
const isFile = computed(() => ![recordTab, paperTab, assetTab, htmlTab].includes(open.value))
const isCode = computed(() => ![paperTab, assetTab].includes(open.value))

function order(a: string, b: string): number {
  const rank = (n: string) =>
    n === template.value?.manifest?.page ? 0 : n.endsWith('.css') ? 1 : n.endsWith('.yaml') ? 3 : 2
  return rank(a) - rank(b) || a.localeCompare(b)
}

/** what could not be sent is kept in the browser, until it could */
const safe = computed(() => `olive.draft.${props.name}`)

async function load() {
  try {
    let now: TemplateFiles
    try {
      now = await service.draft(props.name)
      revision.value = now.revision
      changed.value = true
    } catch (e) {
      if (!(e instanceof Problem) || e.status !== 404) throw e
      now = await service.template(props.name)
      revision.value = 0
      changed.value = false
    }
    const left = localStorage.getItem(safe.value)
    if (left) {
      now.files = JSON.parse(left)
      unsaved.value = changed.value = true
    }
    template.value = now
    Object.keys(files).forEach((k) => delete files[k])
    Object.assign(files, now.files)
    open.value = now.manifest?.page ?? textFiles.value[0]
    const sample = now.manifest?.sample ?? 'sample.json'
    record.value = files[sample]?.text || '{\n}\n'
    sets.value = (await service.recordSets()).items
    if (left) keep()
    await show()
  } catch (e) {
    error.value = (e as Error).message
  }
}

const text = computed({
  get: () =>
    open.value === recordTab ? record.value : open.value === htmlTab ? merged.value : (files[open.value]?.text ?? ''),
  set: (v: string) => {
    if (open.value === htmlTab) return
    if (open.value === recordTab) record.value = v
    else put(open.value, { text: v })
    soon()
  },
})

function put(file: string, body: FileBody) {
  files[file] = body
  touched()
}

/** what is edited is no longer what is kept */
function touched() {
  changed.value = unsaved.value = true
  clearTimeout(saving)
  saving = window.setTimeout(keep, 1200)
}

/** shows a change at once, or when the pages that are being set are there */
function soon() {
  clearTimeout(timer)
  if (busy.value) again = true
  else timer = window.setTimeout(show, 20)
}

/** keeps what is being edited as the draft; published versions stay as they are */
async function keep() {
  if (!session.may('design')) return
  const sent = JSON.stringify(files)
  try {
    const d = await service.saveDraft(props.name, { ...files }, revision.value)
    revision.value = d.revision
    if (template.value) template.value.fields = d.fields ?? template.value.fields
    if (sent === JSON.stringify(files)) unsaved.value = false
    localStorage.removeItem(safe.value)
  } catch (e) {
    localStorage.setItem(safe.value, sent)
    if (e instanceof Problem && e.status === 412) {
      const mine = await ElMessageBox.confirm((e as Error).message, props.name, {
        confirmButtonText: t('Save'),
        cancelButtonText: t('Cancel'),
      }).then(
        () => true,
        () => false,
      )
      if (mine) {
        revision.value = (await service.draft(props.name).catch(() => ({ revision: 0 }))).revision
        keep()
      }
      return
    }
    clearTimeout(saving)
    saving = window.setTimeout(keep, 5000) // the line is cut: try again
  }
}

async function show() {
  const mine = ++turn
  busy.value = true
  const start = performance.now()
  try {
    let data: unknown
    try {
      data = JSON.parse(record.value)
    } catch (e) {
      throw new Error(t('The record is not JSON: {0}', (e as Error).message))
    }
    const out = await service.render(
      changed.value ? { files: { ...files }, record: data } : { template: props.name, record: data },
    )
    if (mine !== turn) return
    findings.value = out.findings
    sheets.value = out.sheets
    merged.value = out.html
    failure.value = ''
    await view.value?.show(out.pdf, () => mine === turn)
    if (mine !== turn) return
    pages.value = out.pages
    took.value = Math.round(performance.now() - start)
  } catch (e) {
    if (mine === turn) failure.value = (e as Error).message
  } finally {
    if (mine === turn) {
      busy.value = false
      if (again) soon()
      again = false
    }
  }
}

/** findings and failures at their lines of the open file */
const marks = computed<Mark[]>(() => {
  const out: Mark[] = []
  for (const f of findings.value) {
    if (f.line && f.file === open.value)
      out.push({
        line: f.line,
        column: f.column,
        severity: f.severity === 'note' ? 'info' : (f.severity as 'error' | 'warning'),
        message: f.message,
      })
  }
  const at = /(?:^|[\s(/])([\w./-]+\.\w+)(?::| line )(\d+)/.exec(failure.value)
  if (at && (at[1] === open.value || at[1].endsWith('/' + open.value)))
    out.push({ line: Number(at[2]), severity: 'error', message: failure.value })
  return out
})

/** finds a word of a page: in the record, which most words come from, or in the markup */
async function find({ word, run }: { word: string; run: string }) {
  const page = template.value?.manifest?.page ?? 'page.html'
  for (const wanted of [run, word]) {
    for (const [tab, body] of [
      [page, files[page]?.text ?? ''],
      [recordTab, record.value],
      ...textFiles.value.filter((f) => /\.html?$/.test(f) && f !== page).map((f) => [f, files[f].text!]),
    ] as [string, string][]) {
      const at = body.indexOf(wanted)
      if (at < 0) continue
      let [from, to, file] = [at, at + wanted.length, tab]
      if (tab === recordTab) {
        // the field that shows it
        const name = /"([^"]+)"\s*:\s*[^:]*$/.exec(body.slice(0, at))?.[1]
        const use = name ? new RegExp(`\\{\\{[^}]*\\.${name}\\b[^}]*\\}\\}`).exec(files[page]?.text ?? '') : null
        if (use) [from, to, file] = [use.index, use.index + use[0].length, page]
      }
      open.value = file
      await nextTick()
      await nextTick()
      editor.value?.reveal(from, to)
      return
    }
  }
}

async function goTo(f: Finding) {
  listing.value = true
  if (!f.line || !f.file || !files[f.file]) return
  open.value = f.file
  await nextTick()
  await nextTick()
  editor.value?.revealLine(f.line)
}

async function step(by: number) {
  const s = source.value
  s.number = Math.min(Math.max(s.number + by, 1), s.count)
  if (!s.set) {
    record.value = files[template.value?.manifest?.sample ?? 'sample.json']?.text ?? '{\n}\n'
  } else {
    const r = await attempt(() => service.record(s.set, s.number))
    if (r) record.value = JSON.stringify(r.data, null, 2)
  }
  show()
}
function choose(set: number) {
  source.value = { set, number: 1, count: sets.value.find((s) => s.id === set)?.count ?? 1 }
  step(0)
}

function paper(css: string) {
  put(paperFile, { text: css })
  const manifest = files['template.yaml']?.text ?? ''
  if (!manifest.includes(paperFile)) {
    // the template has to use it
    const next = /^styles:\s*\[/m.test(manifest)
      ? manifest.replace(
          /^(styles:\s*\[[^\]]*?)\s*\]/m,
          (_, list) => `${list}${list.trim().endsWith('[') ? '' : ', '}${paperFile}]`,
        )
      : `${manifest.trimEnd()}\nstyles: [${paperFile}]\n`
    put('template.yaml', { text: next.trimStart() })
  }
  soon()
}

async function addAsset(e: Event) {
  const input = e.target as HTMLInputElement
  for (const f of input.files ?? []) {
    const bytes = new Uint8Array(await f.arrayBuffer())
    let s = ''
    bytes.forEach((b) => (s += String.fromCharCode(b)))
    put(
      f.name,
      /\.(html?|css|json|ya?ml|svg|txt|md)$/i.test(f.name)
        ? { text: new TextDecoder().decode(bytes) }
        : { base64: btoa(s) },
    )
  }
  input.value = ''
  soon()
}
function removeFile(f: string) {
  delete files[f]
  touched()
  soon()
}
const size = (f: FileBody) => `${Math.max(1, Math.round(((f.base64?.length ?? 0) * 0.75) / 1024))} KB`

async function publish() {
  const out = await attempt(async () => {
    const { value } = await ElMessageBox.prompt(
      t('What has changed? The note is kept with the version.'),
      t('Publish a new version'),
      { confirmButtonText: t('Publish'), cancelButtonText: t('Cancel') },
    )
    return service.publish(props.name, { ...files }, value ?? '')
  })
  if (!out) return
  clearTimeout(saving)
  changed.value = unsaved.value = false
  revision.value = 0
  localStorage.removeItem(safe.value)
  template.value!.latest = template.value!.version = out.version
  ElMessage.success(t('Version {0} is published', out.version))
}

async function dropDraft() {
  const ok = await attempt(async () => {
    await ElMessageBox.confirm(t('Drop the draft'), props.name, {
      confirmButtonText: t('Drop the draft'),
      cancelButtonText: t('Cancel'),
    })
    clearTimeout(saving)
    if (revision.value) await service.dropDraft(props.name)
    localStorage.removeItem(safe.value)
    return true
  })
  if (ok) {
    unsaved.value = false
    load()
  }
}

function key(e: KeyboardEvent) {
  if ((e.ctrlKey || e.metaKey) && e.key === 's') {
    e.preventDefault()
    if (changed.value) publish()
  }
}
const leaving = (e: BeforeUnloadEvent) => {
  if (!unsaved.value) return
  localStorage.setItem(safe.value, JSON.stringify(files))
  e.preventDefault()
}
onMounted(() => {
  load()
  window.addEventListener('keydown', key)
  window.addEventListener('beforeunload', leaving)
})
onBeforeUnmount(() => {
  window.removeEventListener('keydown', key)
  window.removeEventListener('beforeunload', leaving)
  clearTimeout(timer)
  clearTimeout(saving)
  if (unsaved.value) keep()
})
watch(() => props.name, load)
</script>

<template>
  <el-alert v-if="error" class="trouble" :title="error" type="error" :closable="false" show-icon />
  <div v-else class="bench">
    <div class="tools">
      <RouterLink to="/templates" class="back" :aria-label="t('Templates')">←</RouterLink>
      <h1>{{ template?.title ?? name }}</h1>
      <span class="soft">{{ template?.latest ? t('version {0}', template.latest) : t('not published') }}</span>
      <el-tag v-if="changed" :type="unsaved ? 'warning' : 'info'" effect="plain" size="small">{{
        unsaved ? t('changed') : t('draft kept')
      }}</el-tag>
      <span class="grow" />
      <el-button v-if="changed && template?.latest" text @click="dropDraft">{{ t('Drop the draft') }}</el-button>
      <el-button v-if="(template?.latest ?? 0) > 1" @click="comparing = true">{{ t('Compare') }}</el-button>
      <el-button v-if="session.may('design')" :disabled="!changed" data-test="publish" @click="publish">{{
        t('Publish')
      }}</el-button>
      <el-button v-if="session.may('issue')" type="primary" data-test="batch" @click="making = true">{{
        t('Make documents')
      }}</el-button>
    </div>
    <section class="source" :aria-label="t('Templates')">
      <div class="tabs" role="tablist">
        <button
          role="tab"
          :aria-selected="isFile"
          :class="{ here: isFile }"
          @click="open = template?.manifest?.page ?? textFiles[0]"
        >
          {{ t('Source') }}
        </button>
        <button
          v-for="f in [recordTab, paperTab, assetTab, htmlTab]"
          :key="f"
          role="tab"
          :aria-selected="open === f"
          :class="{ here: open === f }"
          @click="open = f"
        >
          {{ t(f) }}
        </button>
      </div>
      <div v-if="isFile" class="files" role="tablist">
        <button
          v-for="f in textFiles"
          :key="f"
          role="tab"
          :aria-selected="open === f"
          :class="{ here: open === f }"
          @click="open = f"
        >
          {{ f }}
        </button>
      </div>
      <div v-if="open === recordTab" class="step">
        <el-select :model-value="source.set" size="small" :aria-label="t('Record set')" @change="choose"
          ><el-option :value="0" :label="t('Sample record')" /><el-option
            v-for="s in sets"
            :key="s.id"
            :value="s.id"
            :label="s.name"
        /></el-select>
        <template v-if="source.set"
          ><el-button size="small" :disabled="source.number <= 1" @click="step(-1)">{{ t('Previous') }}</el-button
          ><span class="small">{{ t('Record {0} of {1}', source.number, source.count) }}</span
          ><el-button size="small" data-test="next" :disabled="source.number >= source.count" @click="step(1)">{{
            t('Next')
          }}</el-button></template
        >
      </div>
      <PaperForm v-if="open === paperTab" :css="files[paperFile]?.text ?? ''" @change="paper" />
      <div v-else-if="open === assetTab" class="assets">
        <p>
          <input ref="adding" type="file" multiple hidden @change="addAsset" /><el-button
            size="small"
            @click="adding!.click()"
            >{{ t('Add') }}</el-button
          >
        </p>
        <div v-for="f in assets" :key="f" class="asset">
          <span class="mono">{{ f }}</span><span class="soft small">{{ size(files[f]) }}</span
          ><span class="grow" /><button class="textLink small" @click="removeFile(f)">{{ t('Delete') }}</button>
        </div>
      </div>
      <CodeEditor
        v-else-if="open && isCode"
        ref="editor"
        v-model="text"
        :file="open === recordTab ? 'record.json' : open === htmlTab ? 'merged.html' : open"
        :fields="template?.fields"
        :marks="marks"
      />
    </section>
    <section class="sheets" :aria-label="t('Pages')">
      <div class="status">
        <span v-if="failure" class="bad">{{ t('Not up to date') }}</span>
        <span v-else-if="pages" data-test="pages">{{ pages === 1 ? t('1 page') : t('{0} pages', pages) }}</span>
        <span v-if="took && !failure" class="soft" data-test="took">{{ t('shown in {0} ms', took) }}</span>
        <span v-if="busy" class="soft" data-test="busy">{{ t('Setting …') }}</span>
        <span class="grow" />
        <el-checkbox v-model="areas" size="small">{{ t('Page areas') }}</el-checkbox>
        <el-checkbox v-model="breaks" size="small" data-test="breaks">{{ t('Breaks') }}</el-checkbox>
        <el-button v-if="findings.length" size="small" data-test="findings" @click="listing = !listing"
          >{{ findings.length }} {{ t('findings') }}</el-button
        >
      </div>
      <el-alert v-if="failure" :title="failure" type="error" :closable="false" show-icon />
      <ul v-if="listing && findings.length" class="findings">
        <li v-for="(f, i) in findings" :key="i">
          <button class="textLink" @click="goTo(f)">
            <b :class="f.severity">{{ f.severity }}</b> {{ f.message }}</button
          ><span v-if="f.line" class="soft small"> {{ f.file }}:{{ f.line }}</span
          ><span v-if="f.page" class="soft small"> · {{ t('Pages') }} {{ f.page }}</span>
          <div v-if="f.advice" class="soft small">{{ f.advice }}</div>
        </li>
      </ul>
      <PageView
        ref="view"
        :class="{ stale: failure }"
        :findings="findings"
        :sheets="sheets"
        :areas="areas"
        :breaks="breaks"
        @word="find"
        @finding="goTo"
      />
    </section>
    <StartBatch v-model="making" :template="name" :changed="changed" />
    <CompareVersions v-model="comparing" :template="name" />
  </div>
</template>

<style scoped>
.bench {
  height: 100%;
  display: grid;
  grid-template: auto minmax(0, 1fr) / minmax(0, 46fr) minmax(0, 54fr);
}
.trouble {
  margin: 32px;
  width: auto;
}
.tools {
  grid-column: 1 / -1;
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 10px 20px;
  border-bottom: 1px solid var(--line);
  background: var(--card);
  flex-wrap: wrap;
}
.tools h1 {
  font-size: 18px;
}
.tools .el-button {
  margin: 0;
}
.back {
  text-decoration: none;
  color: var(--ink-soft);
  font-size: 20px;
  padding: 0 6px;
}
.source {
  display: flex;
  flex-direction: column;
  min-height: 0;
  background: var(--card);
  border-right: 1px solid var(--line);
}
.tabs {
  display: flex;
  gap: 2px;
  padding: 6px 10px 0;
  border-bottom: 1px solid var(--line);
  overflow-x: auto;
  flex: none;
}
.tabs button {
  border: 0;
  background: none;
  font: inherit;
  font-size: 13.5px;
  padding: 6px 8px 8px;
  color: var(--ink-soft);
  cursor: pointer;
  border-bottom: 2px solid transparent;
  white-space: nowrap;
}
.tabs button.here {
  color: var(--olive-deep);
  border-color: var(--olive);
  font-weight: 600;
}
.files {
  display: flex;
  gap: 6px;
  padding: 7px 12px;
  border-bottom: 1px solid var(--line);
  overflow-x: auto;
  flex: none;
  background: var(--paper);
}
.files button {
  border: 1px solid transparent;
  background: none;
  font: inherit;
  font-size: 13px;
  padding: 1px 9px 2px;
  border-radius: 12px;
  color: var(--ink-soft);
  cursor: pointer;
  white-space: nowrap;
}
.files button.here {
  background: var(--card);
  border-color: var(--line);
  color: var(--ink);
}
.step {
  display: flex;
  align-items: center;
  gap: 10px;
  padding: 7px 12px;
  border-bottom: 1px solid var(--line);
}
.step .el-select {
  width: 220px;
}
.assets {
  padding: 10px 18px;
  overflow: auto;
}
.asset {
  display: flex;
  gap: 12px;
  padding: 8px 0;
  border-top: 1px solid var(--line);
  align-items: center;
}
.sheets {
  display: flex;
  flex-direction: column;
  min-height: 0;
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
.bad {
  color: var(--bad);
  font-weight: 600;
}
.stale {
  opacity: 0.55;
}
.findings {
  margin: 0;
  padding: 8px 18px;
  max-height: 34%;
  overflow: auto;
  background: var(--card);
  border-bottom: 1px solid var(--line);
  list-style: none;
  font-size: 14px;
}
.findings li {
  padding: 6px 0;
}
.findings .textLink {
  font-weight: 400;
  color: inherit;
}
.findings .warning {
  color: #be5a00;
}
.findings .error {
  color: var(--bad);
}
.findings .note {
  color: #1e6ea0;
}
@media (max-width: 900px) {
  .bench {
    grid-template: auto 45vh minmax(0, 1fr) / minmax(0, 1fr);
  }
  .source {
    border-right: 0;
    border-bottom: 1px solid var(--line);
  }
}
</style>
