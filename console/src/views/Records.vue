<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { ElMessage } from 'element-plus'
import { service, when, type RecordRow, type RecordSet } from '../api'

const sets = ref<RecordSet[]>()
const chosen = ref<RecordSet>()
const rows = ref<RecordRow[]>([])
const total = ref(0)
const page = ref(1)
const error = ref('')
const picker = ref<HTMLInputElement>()
const size = 12

async function load() {
  try {
    sets.value = (await service.recordSets()).items
    if (!chosen.value && sets.value.length) await pick(sets.value[0])
  } catch (e) {
    error.value = (e as Error).message
  }
}

async function pick(s: RecordSet) {
  chosen.value = s
  page.value = 1
  await turn()
}

async function turn() {
  const out = await service.records(chosen.value!.id, (page.value - 1) * size, size)
  rows.value = out.items
  total.value = out.total
}

async function take(e: Event) {
  const input = e.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file) return
  error.value = ''
  try {
    const s = await service.importRecords(file)
    ElMessage.success(`${s.count} records imported`)
    chosen.value = undefined
    await load()
  } catch (err) {
    error.value = (err as Error).message
  }
}

/** the fields that a table can show: plain values, the first few */
function fields(): string[] {
  const first = rows.value[0]?.data ?? {}
  return Object.keys(first).filter((k) => first[k] === null || typeof first[k] !== 'object').slice(0, 6)
}

onMounted(load)
</script>

<template>
  <div class="view">
    <div class="head">
      <div class="grow">
        <h1>Records</h1>
        <p>Sets of structured data: JSON, NDJSON and CSV.</p>
      </div>
      <input ref="picker" type="file" accept=".json,.ndjson,.jsonl,.csv" hidden @change="take" />
      <el-button type="primary" @click="picker!.click()">Import a file</el-button>
    </div>
    <el-alert v-if="error" :title="error" type="error" show-icon @close="error = ''" />
    <div v-if="sets && !sets.length" class="card empty">
      <h2>No records yet</h2>
      <p>Import a file of invoices, certificates or anything else your templates are for.</p>
    </div>
    <div v-else class="split" v-loading="!sets">
      <aside class="card">
        <button v-for="s in sets" :key="s.id" :class="{ here: s.id === chosen?.id }" @click="pick(s)">
          <b>{{ s.name }}</b><span class="soft">{{ s.count }} records · {{ when(s.created) }}</span>
        </button>
      </aside>
      <section class="card list">
        <el-table :data="rows" size="default">
          <el-table-column label="#" width="64" align="right"><template #default="{ row }">{{ row.number }}</template></el-table-column>
          <el-table-column v-for="f in fields()" :key="f" :label="f" min-width="120" show-overflow-tooltip><template #default="{ row }">{{ row.data[f] }}</template></el-table-column>
        </el-table>
        <el-pagination v-model:current-page="page" layout="prev, pager, next, total" :page-size="size" :total="total" @current-change="turn" />
      </section>
    </div>
  </div>
</template>

<style scoped>
.split { display: grid; grid-template-columns: 260px minmax(0, 1fr); gap: 20px; align-items: start; min-height: 120px; }
aside { overflow: hidden; }
aside button { display: block; width: 100%; text-align: left; border: 0; background: none; font: inherit; padding: 12px 16px; cursor: pointer; border-left: 3px solid transparent; }
aside button + button { border-top: 1px solid var(--line); }
aside button.here { background: #eef1e5; border-left-color: var(--olive); }
aside span { display: block; font-size: 13px; }
.list { padding: 6px 12px 12px; }
.el-pagination { margin-top: 12px; justify-content: flex-end; }
.el-alert { margin-bottom: 16px; }
@media (max-width: 820px) { .split { grid-template-columns: 1fr; } }
</style>
