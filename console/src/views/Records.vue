<script setup lang="ts">
import { onMounted, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { ElMessageBox } from 'element-plus'
import { service, type Imported, type RecordRow, type RecordSet, type TemplateRow } from '../api'
import { when } from '../format'
import { useSession } from '../stores/session'
import { records, t } from '../i18n'
import { attempt } from '../attempt'
import { useEndless } from '../composables/useEndless'
import ImportRecords from '../parts/ImportRecords.vue'
import ListEnd from '../parts/ListEnd.vue'
import RecordEditor from '../parts/RecordEditor.vue'
import RecordGrid from '../parts/RecordGrid.vue'

const session = useSession()
const route = useRoute()
const router = useRouter()
const sets = ref<RecordSet[]>()
const chosen = ref<RecordSet>()
const templates = ref<TemplateRow[]>([])
const fault = ref('') // why the sets cannot be read
const search = ref('')
const template = ref('')
const file = ref<File>()
const picker = ref<HTMLInputElement>()
const editing = ref(false)
const record = ref<RecordRow>()
const { rows, total, busy, error, load, more } = useEndless(
  (offset, limit) =>
    chosen.value
      ? service.records(chosen.value.id, { offset, limit, search: search.value, template: template.value })
      : Promise.resolve({ items: [], total: 0 }),
  [chosen, search, template],
)

async function read(pick?: number) {
  try {
    sets.value = (await service.recordSets()).items
    fault.value = ''
  } catch (e) {
    fault.value = (e as Error).message
    return
  }
  chosen.value = sets.value.find((s) => s.id === pick) ?? sets.value[0]
}

function choose(e: Event) {
  const input = e.target as HTMLInputElement
  file.value = input.files?.[0]
  input.value = ''
}
function imported(s: Imported) {
  file.value = undefined
  read(s.id)
}
function edit(r?: RecordRow) {
  record.value = r
  editing.value = true
}

async function make(row: RecordRow) {
  const of = template.value || (await ask())
  if (!of) return
  const out = await attempt(() => service.order({ template: of, recordSet: chosen.value!.id, records: [row.number] }))
  const made = out?.items[0]
  if (made) router.push({ path: '/documents', query: { document: made.id } })
}
async function ask(): Promise<string> {
  if (templates.value.length === 1) return templates.value[0].name
  return attempt(
    async () =>
      (
        await ElMessageBox.prompt(templates.value.map((x) => x.name).join(', '), t('Template'), {
          inputValue: templates.value[0]?.name,
          confirmButtonText: t('Make its document'),
          cancelButtonText: t('Cancel'),
        })
      ).value,
  ).then((v) => v ?? '')
}

async function drop() {
  const s = chosen.value!
  const ok = await attempt(async () => {
    await ElMessageBox.confirm(
      t('Drop the set {0} with its {1} records? Documents stay.', s.name, s.count),
      t('Drop the set'),
      { confirmButtonText: t('Drop the set'), cancelButtonText: t('Cancel') },
    )
    await service.dropRecordSet(s.id)
    return true
  })
  if (ok) read()
}

watch(
  () => route.query.record,
  async (n) => {
    const set = Number(route.query.set)
    if (set && n) {
      const r = await attempt(() => service.record(set, Number(n)))
      if (r) edit(r)
    }
  },
  { immediate: true },
)
onMounted(async () => {
  await read(Number(route.query.set) || undefined)
  templates.value = ((await attempt(() => service.templates()))?.items ?? []).filter((x) => x.latest > 0)
})
</script>

<template>
  <div class="view">
    <div class="head">
      <div class="grow">
        <h1>{{ t('Records') }}</h1>
        <p>{{ t('Sets of structured data that documents are made of.') }}</p>
      </div>
      <input
        ref="picker"
        type="file"
        accept=".json,.ndjson,.jsonl,.csv,.tsv,.yaml,.yml,.xml,.xlsx"
        hidden
        @change="choose"
      />
      <el-button v-if="session.may('records')" type="primary" @click="picker!.click()">{{
        t('Import a file')
      }}</el-button>
    </div>
    <el-alert v-if="fault" :title="t(fault)" type="error" :closable="false" show-icon />
    <div v-else-if="sets && !sets.length" class="card empty">
      <h2>{{ t('No records yet') }}</h2>
      <p>{{ t('Import a file of invoices, certificates or anything else your templates are for.') }}</p>
    </div>
    <div v-else v-loading="!sets" class="split">
      <aside class="card">
        <button v-for="s in sets" :key="s.id" :class="{ here: s.id === chosen?.id }" @click="chosen = s">
          <b>{{ s.name }}</b><span class="soft">{{ records(s.count) }} · {{ when(s.created) }}</span>
        </button>
      </aside>
      <section class="card list">
        <div class="tools">
          <el-input
            v-model="search"
            class="search"
            size="small"
            clearable
            :placeholder="t('Search')"
            :aria-label="t('Search')"
          />
          <el-select
            v-model="template"
            size="small"
            clearable
            :placeholder="t('Check by template')"
            :aria-label="t('Check by template')"
            ><el-option v-for="x in templates" :key="x.name" :value="x.name" :label="x.title"
          /></el-select>
          <el-button v-if="session.may('records')" size="small" @click="edit()">{{ t('Add a record') }}</el-button>
          <el-button v-if="session.may('records')" size="small" @click="drop">{{ t('Drop the set') }}</el-button>
        </div>
        <el-alert v-if="error" :title="error" type="error" :closable="false" show-icon />
        <RecordGrid
          v-if="chosen"
          :set="chosen.id"
          :rows="rows"
          :editable="session.may('records')"
          :issues="session.may('issue')"
          @open="edit"
          @make="make"
          @stale="load"
        />
        <ListEnd v-if="rows" :key="rows.length" :shown="rows.length" :total="total" :busy="busy" @more="more" />
      </section>
    </div>
    <ImportRecords :file="file" @done="imported" @left="file = undefined" />
    <RecordEditor
      v-if="chosen"
      v-model="editing"
      :set="Number(route.query.set) || chosen.id"
      :record="record"
      @saved="load"
    />
  </div>
</template>

<style scoped>
.split {
  display: grid;
  grid-template-columns: 240px minmax(0, 1fr);
  gap: 20px;
  align-items: start;
  min-height: 120px;
}
aside {
  overflow: hidden;
}
aside button {
  display: block;
  width: 100%;
  text-align: left;
  border: 0;
  background: none;
  font: inherit;
  color: inherit;
  padding: 12px 16px;
  cursor: pointer;
  border-left: 3px solid transparent;
}
aside button + button {
  border-top: 1px solid var(--line);
}
aside button.here {
  background: var(--tint);
  border-left-color: var(--olive);
}
aside b {
  overflow-wrap: anywhere;
}
aside span {
  display: block;
  font-size: 13px;
}
.tools {
  display: flex;
  gap: 8px;
  flex-wrap: wrap;
  padding: 8px 0;
}
.tools .search {
  flex: 1 1 160px;
}
.tools .el-select {
  width: 180px;
}
.tools .el-button {
  margin: 0;
}
@media (max-width: 820px) {
  .split {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
