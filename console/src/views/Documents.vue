<script setup lang="ts">
import { onMounted, ref, watch } from 'vue'
import { service, kilobytes, when, type DocumentRow } from '../api'

const rows = ref<DocumentRow[]>()
const total = ref(0)
const page = ref(1)
const search = ref('')
const error = ref('')
const shown = ref<DocumentRow>()
const size = 20
let timer = 0

async function load() {
  try {
    const out = await service.documents(search.value, (page.value - 1) * size, size)
    rows.value = out.items
    total.value = out.total
    error.value = ''
  } catch (e) {
    error.value = (e as Error).message
  }
}

watch(search, () => {
  clearTimeout(timer)
  timer = window.setTimeout(() => {
    page.value = 1
    load()
  }, 200)
})
const address = (d: DocumentRow) => `/api/v1/documents/${d.id}/pdf`
onMounted(load)
</script>

<template>
  <div class="view">
    <div class="head">
      <div class="grow">
        <h1>Documents</h1>
        <p>Every PDF that was made, newest first.</p>
      </div>
      <el-input v-model="search" class="search" placeholder="Search by name or title" clearable aria-label="Search documents" />
    </div>
    <el-alert v-if="error" :title="error" type="error" :closable="false" show-icon />
    <div v-else-if="rows && !rows.length && !search" class="card empty">
      <h2>No documents yet</h2>
      <p>Open a template and choose <b>Make documents</b>.</p>
    </div>
    <section v-else class="card list" v-loading="!rows">
      <el-table :data="rows" :empty-text="`Nothing matches “${search}”`">
        <el-table-column label="Name" min-width="240"><template #default="{ row }"><a :href="address(row)" @click.prevent="shown = row">{{ row.name }}</a><div class="soft small">{{ row.title }}</div></template></el-table-column>
        <el-table-column label="Template" min-width="140"><template #default="{ row }">{{ row.template || 'posted page' }} <span v-if="row.version" class="soft">v{{ row.version }}</span></template></el-table-column>
        <el-table-column label="Pages" width="80" align="right"><template #default="{ row }">{{ row.pages }}</template></el-table-column>
        <el-table-column label="Size" width="90" align="right"><template #default="{ row }">{{ kilobytes(row.bytes) }}</template></el-table-column>
        <el-table-column label="Made" width="190"><template #default="{ row }">{{ when(row.created) }}</template></el-table-column>
        <el-table-column label="" width="120" align="right"><template #default="{ row }"><a class="save" :href="address(row) + '?download=1'" :download="row.name">Download</a></template></el-table-column>
      </el-table>
      <el-pagination v-model:current-page="page" layout="prev, pager, next, total" :page-size="size" :total="total" @current-change="load" />
    </section>
    <el-drawer :model-value="!!shown" size="62%" :title="shown?.name" @close="shown = undefined">
      <iframe v-if="shown" :src="address(shown)" :title="shown.name" />
    </el-drawer>
  </div>
</template>

<style scoped>
.search { width: 280px; }
.list { padding: 6px 12px 12px; min-height: 120px; }
.small { font-size: 13px; line-height: 1.3; }
a { color: var(--olive-deep); font-weight: 600; text-decoration: none; }
a:hover { text-decoration: underline; }
.save { font-weight: 500; }
.el-pagination { margin-top: 12px; justify-content: flex-end; }
iframe { width: 100%; height: 100%; border: 0; background: #eceae1; }
</style>
