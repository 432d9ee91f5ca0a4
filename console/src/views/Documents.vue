<script setup lang="ts">
import { onMounted, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { service, type DocumentDetail, type DocumentRow, type TemplateRow } from '../api'
import { kilobytes, when } from '../format'
import { t } from '../i18n'
import { attempt } from '../attempt'
import { useList } from '../composables/useList'
import PageThumb from '../parts/PageThumb.vue'
import ChosenDocuments from '../parts/ChosenDocuments.vue'
import DocumentPanel from '../parts/DocumentPanel.vue'
import StateTag from '../parts/StateTag.vue'

const route = useRoute()
const router = useRouter()
const search = ref('')
const template = ref('')
const state = ref((route.query.state ?? '') as DocumentRow['state'] | '')
const days = ref<[string, string] | null>(null)
const batch = ref(Number(route.query.batch) || undefined)
const templates = ref<TemplateRow[]>([])
const sort = ref('')
const chosen = ref<DocumentRow[]>([])
const shown = ref<DocumentDetail>()
const { rows, total, page, error, load, size } = useList(
  (offset, limit) =>
    service.documents({
      offset,
      limit,
      search: search.value,
      template: template.value,
      state: state.value || undefined,
      batch: batch.value,
      from: days.value?.[0],
      to: days.value?.[1],
      sort: sort.value,
    }),
  [search, template, state, days, batch, sort],
)

async function open(id?: number) {
  shown.value = id ? await attempt(() => service.document(id)) : undefined
}
function order(o: { prop: string; order: string | null }) {
  sort.value = o.order ? (o.order === 'descending' ? '-' : '') + o.prop : ''
}
function changed(d: DocumentDetail) {
  shown.value = d
  load()
}
watch(
  () => route.query.document,
  (id) => open(Number(id) || undefined),
  { immediate: true },
)
onMounted(async () => {
  templates.value = (await attempt(() => service.templates()))?.items ?? []
})
const states = ['draft', 'approved', 'issued', 'sent', 'void']
</script>

<template>
  <div class="view">
    <div class="head">
      <div class="grow">
        <h1>{{ t('Documents') }}</h1>
        <p>{{ t('Every PDF that was made, newest first.') }}</p>
      </div>
    </div>
    <div class="filters">
      <el-input
        v-model="search"
        class="search"
        :placeholder="t('Number, name, or any text in the record')"
        clearable
        :aria-label="t('Search')"
      />
      <el-select v-model="template" clearable :placeholder="t('All templates')" :aria-label="t('Template')"
        ><el-option v-for="x in templates" :key="x.name" :value="x.name" :label="x.title"
      /></el-select>
      <el-select v-model="state" clearable :placeholder="t('All states')" :aria-label="t('State')"
        ><el-option v-for="s in states" :key="s" :value="s" :label="t(s)"
      /></el-select>
      <el-date-picker
        v-model="days"
        type="daterange"
        value-format="YYYY-MM-DD"
        unlink-panels
        start-placeholder="…"
        end-placeholder="…"
      />
      <el-tag v-if="batch" closable size="large" @close="batch = undefined">{{ t('Batches') }} #{{ batch }}</el-tag>
    </div>
    <el-alert v-if="error" :title="error" type="error" :closable="false" show-icon />
    <div v-else-if="rows && !rows.length && !search && !template && !state && !days && !batch" class="card empty">
      <h2>{{ t('No documents yet') }}</h2>
      <p>{{ t('Open a template and choose Make documents, or start a batch.') }}</p>
    </div>
    <section v-else v-loading="!rows" class="card list">
      <ChosenDocuments v-if="chosen.length" :documents="chosen" @done="load" />
      <el-table
        :data="rows"
        row-key="id"
        :empty-text="t('Nothing matches')"
        @sort-change="order"
        @selection-change="(list: DocumentRow[]) => (chosen = list)"
      >
        <el-table-column type="selection" width="44" />
        <el-table-column :label="t('Name')" prop="name" sortable="custom" min-width="180"
          ><template #default="{ row }"
            ><el-popover placement="right" :width="264" :show-after="400" :hide-after="0" :disabled="!!row.erased">
              <template #reference>
                <button class="textLink name" @click="router.push({ query: { ...route.query, document: row.id } })">
                  {{ row.name }}
                </button>
              </template>
              <template #default>
                <PageThumb :pdf="() => service.pdf(row.id)" :none="t('The page cannot be shown')" />
              </template>
            </el-popover>
            <div class="soft small">{{ row.title }}</div></template
          ></el-table-column
        >
        <el-table-column :label="t('Number')" prop="number" sortable="custom" width="136"
          ><template #default="{ row }">{{ row.number }}</template></el-table-column
        >
        <el-table-column :label="t('State')" width="112"
          ><template #default="{ row }"
            ><StateTag :state="row.state" />
            <div
              v-if="row.delivery && row.delivery !== 'done'"
              class="small soft"
              :class="{ bad: row.delivery === 'failed' }"
              data-test="delivery"
            >
              {{ row.delivery === 'failed' ? t('delivery failed') : t('on its way') }}
            </div></template
          ></el-table-column
        >
        <el-table-column :label="t('Template')" min-width="160" show-overflow-tooltip
          ><template #default="{ row }"
            >{{ row.template || 'HTML' }} <span v-if="row.version" class="soft">v{{ row.version }}</span></template
          ></el-table-column
        >
        <el-table-column :label="t('Pages')" width="76" align="right"
          ><template #default="{ row }">{{ row.pages }}</template></el-table-column
        >
        <el-table-column :label="t('Size')" width="84" align="right"
          ><template #default="{ row }">{{ kilobytes(row.bytes) }}</template></el-table-column
        >
        <el-table-column :label="t('Made')" prop="created_at" sortable="custom" width="176" class-name="when"
          ><template #default="{ row }">{{ when(row.created) }}</template></el-table-column
        >
        <el-table-column :label="t('Actions')" width="116" align="right"
          ><template #default="{ row }"
            ><a class="save" :href="`/api/v1/documents/${row.id}/pdf?download=1`" :download="row.name">{{
              t('Download')
            }}</a></template
          ></el-table-column
        >
      </el-table>
      <el-pagination v-model:current-page="page" layout="prev, pager, next, total" :page-size="size" :total="total" />
    </section>
    <el-drawer
      :model-value="!!shown"
      size="min(1080px, 96vw)"
      :title="shown?.name"
      @close="router.push({ query: { ...route.query, document: undefined } })"
    >
      <DocumentPanel v-if="shown" :key="shown.id" :document="shown" @changed="changed" />
    </el-drawer>
  </div>
</template>

<style scoped>
.filters {
  display: flex;
  gap: 10px;
  flex-wrap: wrap;
  margin-bottom: 16px;
  align-items: center;
}
.search {
  flex: 1 1 260px;
}
.filters .el-select {
  width: 180px;
}
.filters :deep(.el-date-editor) {
  flex: 0 0 250px;
}
.save {
  text-decoration: none;
}
.name {
  overflow-wrap: anywhere;
}
.bad {
  color: var(--bad);
  font-weight: 600;
}
</style>
