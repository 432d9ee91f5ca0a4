<script setup lang="ts">
import { computed, nextTick, onBeforeUnmount, onMounted, ref, toRef, watch } from 'vue'
import { ElMessage, ElMessageBox } from 'element-plus'
import type { Rendering } from '../api'
import { attempt } from '../attempt'
import { useDraft } from '../composables/useDraft'
import { useRecordSource } from '../composables/useRecordSource'
import { t } from '../i18n'
import AssetList from '../parts/AssetList.vue'
import CodeEditor from '../parts/CodeEditor.vue'
import CompareVersions from '../parts/CompareVersions.vue'
import FieldPalette from '../parts/FieldPalette.vue'
import PaperForm from '../parts/PaperForm.vue'
import PreviewPane from '../parts/PreviewPane.vue'
import RecordStep from '../parts/RecordStep.vue'
import StartBatch from '../parts/StartBatch.vue'
import TabRow from '../parts/TabRow.vue'
import { findWord, marksOf, withValue, type Setting } from '../parts/sourceplaces'
import { withStyle } from '../parts/templatefiles'
import { useSession } from '../stores/session'

const props = defineProps<{ name: string }>()
const session = useSession()
const draft = useDraft(toRef(props, 'name'))
const { template, files, changed, unsaved } = draft
const page = computed(() => template.value?.manifest?.page || 'page.html')
const sample = () => files[template.value?.manifest?.sample || 'sample.json']?.text || '{\n}\n'
const one = useRecordSource(sample)
const { record, source } = one
const other = useRecordSource(sample)
const otherRecord = other.record

const open = ref('') // a file, or one of the tabs
const error = ref('')
const making = ref(false)
const comparing = ref(false)
const placing = ref(false)
const beside = ref(false) // a second record is shown beside the first
const preview = ref<InstanceType<typeof PreviewPane>>()
const otherPreview = ref<InstanceType<typeof PreviewPane>>()
const editor = ref<InstanceType<typeof CodeEditor>>()

const recordTab = 'Record'
const paperTab = 'Paper'
const assetTab = 'Assets'
const htmlTab = 'Merged HTML'
const tabs = [recordTab, paperTab, assetTab, htmlTab]
const paperFile = 'paper.css'
// licences travel with their fonts; nobody edits them here
const textFiles = computed(() =>
  Object.keys(files)
    .filter((f) => files[f].text !== undefined && !/(^|\/)LICENSE/.test(f))
    .sort((a, b) => rank(a) - rank(b) || a.localeCompare(b)),
)
const rank = (f: string) => (f === page.value ? 0 : f.endsWith('.css') ? 1 : f.endsWith('.yaml') ? 3 : 2)
const sourceTab = 'Source'
const tabRow = computed(() => [sourceTab, ...tabs].map((key) => ({ key, label: t(key) })))
const fileRow = computed(() => textFiles.value.map((key) => ({ key, label: key })))
/** The tab that is open; all files stand under one. */
const tab = computed({
  get: () => (isFile.value ? sourceTab : open.value),
  set: (v: string) => (open.value = v === sourceTab ? page.value : v),
})
const isFile = computed(() => !tabs.includes(open.value))
const isMarkup = computed(() => isFile.value && /\.html?$/.test(open.value))

async function load() {
  try {
    await draft.load()
    open.value = page.value
    await Promise.all([one.load(), other.load()])
    await preview.value?.show()
  } catch (e) {
    error.value = (e as Error).message
  }
}

/** What pages are made of: the files that are edited, or the published version where nothing has changed. */
function ask(json: string): Rendering {
  let data
  try {
    data = JSON.parse(json)
  } catch (e) {
    throw new Error(t('The record is not JSON: {0}', (e as Error).message))
  }
  return changed.value ? { files: { ...files }, record: data } : { template: props.name, record: data }
}
function soon() {
  preview.value?.soon()
  otherPreview.value?.soon()
}

const text = computed({
  get() {
    if (open.value === recordTab) return record.value
    if (open.value === htmlTab) return preview.value?.merged ?? ''
    return files[open.value]?.text ?? ''
  },
  set(v: string) {
    if (open.value === htmlTab) return
    if (open.value === recordTab) record.value = v
    else draft.put(open.value, { text: v })
    soon()
  },
})
const marks = computed(() => marksOf(open.value, preview.value?.findings ?? [], preview.value?.failure ?? ''))

/** Whether a file is text of the template that this person may change. */
const editable = (file: string) => files[file]?.text !== undefined && session.may('design')

/** Opens a file or a tab; its editor is there afterwards. */
async function turnTo(tab: string) {
  open.value = tab
  await nextTick()
  await nextTick()
}
async function find(word: { word: string; run: string }) {
  const place = findWord(files, page.value, record.value, word)
  if (!place) return
  await turnTo(place.file ?? recordTab)
  editor.value?.reveal(place.from, place.to)
}
/** Sets a declaration in its file to another value, and shows the pages with it. */
function setValue(s: Setting) {
  const text = withValue(files[s.file]?.text ?? '', s)
  if (text === undefined) return ElMessage.warning(t('Something else stands there by now; change it in the source.'))
  draft.put(s.file, { text })
  soon()
  goTo(s)
}
async function goTo(f: { file?: string; line?: number }) {
  if (!f.line || !f.file || !files[f.file]) return
  await turnTo(f.file)
  editor.value?.revealLine(f.line)
}

/** The second record begins as the one after the first. */
async function showBeside() {
  beside.value = !beside.value
  if (!beside.value) return
  await other.choose(source.value.set)
  await other.step(source.value.number)
  otherPreview.value?.show()
}

function paper(css: string) {
  draft.put(paperFile, { text: css })
  const manifest = files['template.yaml']?.text ?? ''
  const next = withStyle(manifest, paperFile)
  if (next !== manifest) draft.put('template.yaml', { text: next })
  soon()
}

async function publish() {
  const version = await attempt(async () => {
    const { value } = await ElMessageBox.prompt(
      t('What has changed? The note is kept with the version.'),
      t('Publish a new version'),
      { confirmButtonText: t('Publish'), cancelButtonText: t('Cancel') },
    )
    return draft.publish(value ?? '')
  })
  if (version) ElMessage.success(t('Version {0} is published', version))
}
async function dropDraft() {
  await attempt(async () => {
    await ElMessageBox.confirm(t('Drop the draft'), props.name, {
      confirmButtonText: t('Drop the draft'),
      cancelButtonText: t('Cancel'),
    })
    await draft.drop()
    await load()
  })
}

function key(e: KeyboardEvent) {
  if (!(e.ctrlKey || e.metaKey) || e.key !== 's') return
  e.preventDefault()
  if (changed.value) publish()
}
onMounted(() => {
  load()
  window.addEventListener('keydown', key)
})
onBeforeUnmount(() => window.removeEventListener('keydown', key))
watch(() => props.name, load)
</script>

<template>
  <el-alert v-if="error" class="trouble" :title="error" type="error" :closable="false" show-icon />
  <div v-else class="bench" :class="{ beside }">
    <div class="tools">
      <RouterLink to="/templates" class="back" :aria-label="t('Templates')">←</RouterLink>
      <h1>{{ template?.title ?? name }}</h1>
      <span class="soft">{{ template?.latest ? t('version {0}', template.latest) : t('not published') }}</span>
      <el-tag v-if="changed" :type="unsaved ? 'warning' : 'info'" effect="plain" size="small">
        {{ unsaved ? t('changed') : t('draft kept') }}
      </el-tag>
      <span class="grow" />
      <el-button v-if="changed && template?.latest" text @click="dropDraft">{{ t('Drop the draft') }}</el-button>
      <el-button data-test="beside" :type="beside ? 'primary' : undefined" plain @click="showBeside">
        {{ t('Two records') }}
      </el-button>
      <el-button v-if="(template?.latest ?? 0) > 1" @click="comparing = true">{{ t('Compare') }}</el-button>
      <el-button v-if="session.may('design')" :disabled="!changed" data-test="publish" @click="publish">
        {{ t('Publish') }}
      </el-button>
      <el-button v-if="session.may('issue')" type="primary" data-test="batch" @click="making = true">
        {{ t('Make documents') }}
      </el-button>
    </div>
    <section class="source" :aria-label="t('Source')">
      <div class="top">
        <TabRow v-model="tab" :tabs="tabRow" :label="t('Source')" />
        <span class="grow" />
        <el-button
          v-if="isMarkup && session.may('design')"
          size="small"
          :aria-expanded="placing"
          data-test="palette"
          @click="placing = !placing"
        >
          {{ t('Insert') }}
        </el-button>
      </div>
      <TabRow v-if="isFile" v-model="open" class="files" pills :tabs="fileRow" :label="t('Files')" />
      <FieldPalette v-if="placing && isMarkup" :record="record" @place="(what) => editor?.insert(what)" />
      <RecordStep v-if="open === recordTab" class="step" :from="one" @changed="preview?.show()" />
      <PaperForm
        v-if="open === paperTab"
        :css="files[paperFile]?.text ?? ''"
        :sheet="preview?.sheets[0]"
        @change="paper"
      />
      <AssetList
        v-else-if="open === assetTab"
        :files="files"
        @put="(f, body) => (draft.put(f, body), soon())"
        @remove="(f) => (draft.remove(f), soon())"
      />
      <CodeEditor
        v-else-if="open"
        ref="editor"
        v-model="text"
        :file="open === recordTab ? 'record.json' : open === htmlTab ? 'merged.html' : open"
        :fields="template?.fields"
        :marks="marks"
      />
    </section>
    <div class="pages">
      <PreviewPane
        ref="preview"
        :label="t('Pages')"
        :ask="() => ask(record)"
        :editable="editable"
        @word="find"
        @finding="goTo"
        @place="goTo"
        @set="setValue"
      >
        <RecordStep v-if="beside" class="step" :from="one" @changed="preview?.show()" />
      </PreviewPane>
      <PreviewPane
        v-if="beside"
        ref="otherPreview"
        :label="t('Pages of the second record')"
        :ask="() => ask(otherRecord)"
        :editable="editable"
        @word="find"
        @finding="goTo"
        @place="goTo"
        @set="setValue"
      >
        <RecordStep class="step" data-test="other" :from="other" @changed="otherPreview?.show()" />
      </PreviewPane>
    </div>
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
.beside {
  grid-template-columns: minmax(0, 36fr) minmax(0, 64fr);
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
.top {
  display: flex;
  align-items: center;
  padding: 6px 10px 0;
  border-bottom: 1px solid var(--line);
}
.top > [role='tablist'] {
  flex-shrink: 1;
}
.files {
  padding: 7px 12px;
  border-bottom: 1px solid var(--line);
  background: var(--paper);
}
.step {
  padding: 7px 12px;
  border-bottom: 1px solid var(--line);
}
.pages {
  display: grid;
  grid-auto-flow: column;
  grid-auto-columns: minmax(0, 1fr);
  min-height: 0;
}
.pages > * + * {
  border-left: 1px solid var(--line);
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
