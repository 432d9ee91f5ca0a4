<script setup lang="ts">
import { service } from '../../api'
import { useList } from '../../composables/useList'
import { when } from '../../format'
import { t } from '../../i18n'

const { rows: events, total, page, error, size } = useList((offset, limit) => service.events({ offset, limit }), [], 15)
</script>

<template>
  <el-alert v-if="error" :title="t(error)" type="error" :closable="false" show-icon />
  <section v-else class="card list">
    <el-table :data="events">
      <el-table-column :label="t('When')" width="176" class-name="when"
        ><template #default="{ row }">{{ when(row.at) }}</template></el-table-column
      >
      <el-table-column :label="t('Who')" min-width="180"
        ><template #default="{ row }">{{ row.who }}</template></el-table-column
      >
      <el-table-column :label="t('What')" min-width="170"
        ><template #default="{ row }">{{ row.action }}</template></el-table-column
      >
      <el-table-column :label="t('Of')" min-width="150"
        ><template #default="{ row }">{{ row.kind }} {{ row.ref }}</template></el-table-column
      >
      <el-table-column :label="t('Detail')" min-width="220" show-overflow-tooltip
        ><template #default="{ row }">{{ row.detail }}</template></el-table-column
      >
    </el-table>
    <el-pagination v-model:current-page="page" layout="prev, pager, next, total" :page-size="size" :total="total" />
  </section>
</template>
