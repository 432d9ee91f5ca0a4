<script setup lang="ts">
import { ref } from 'vue'
import { service } from '../api'
import { when } from '../format'
import { t } from '../i18n'
import { attempt } from '../attempt'
import { useList } from '../composables/useList'
import StateTag from '../parts/StateTag.vue'

const { rows, total, page, error, size } = useList((offset, limit) => service.ledger({ offset, limit }), [])
const checked = ref<Awaited<ReturnType<typeof service.verifyLedger>>>()
const busy = ref(false)

async function check() {
  busy.value = true
  checked.value = await attempt(() => service.verifyLedger())
  busy.value = false
}
</script>

<template>
  <div class="view">
    <div class="head">
      <div class="grow">
        <h1>{{ t('Ledger') }}</h1>
        <p>
          {{
            t('Every document that was issued or made void. Rows never change; each has the checksum of the last one.')
          }}
        </p>
      </div>
      <el-button
        tag="a"
        href="/api/v1/ledger/export"
        download="ledger.ndjson"
        :title="t('Rows and signatures, to be checked without this program')"
        >{{ t('Export') }}</el-button
      >
      <el-button
        tag="a"
        href="/api/v1/ledger/head"
        target="_blank"
        :title="t('A page with the newest signed head, to be printed and kept away from the service')"
        >{{ t('Print the head') }}</el-button
      >
      <el-button type="primary" :loading="busy" data-test="check" @click="check">{{ t('Check the ledger') }}</el-button>
    </div>
    <el-alert
      v-if="checked?.sound"
      type="success"
      :closable="false"
      show-icon
      :title="t('The ledger is sound: {0} rows, all documents as they were issued.', checked.rows)"
      ><span v-if="checked.signed"
        >{{ t('The first {0} are signed with the key', checked.signed) }}
        <span class="mono">{{ checked.key }}</span></span
      ><br v-if="checked.witnessed" /><span v-if="checked.witnessed">{{
        t(
          'The first {0} were there on {1}, says {2}',
          checked.witnessed.rows,
          when(checked.witnessed.at),
          checked.witnessed.who,
        )
      }}</span></el-alert
    >
    <el-alert
      v-else-if="checked"
      type="error"
      :closable="false"
      show-icon
      :title="t('{0} faults in {1} rows', checked.faults.length, checked.rows)"
      ><ul>
        <li v-for="(f, i) in checked.faults" :key="i">{{ f.message }}</li>
      </ul></el-alert
    >
    <el-alert v-if="error" :title="error" type="error" :closable="false" show-icon />
    <div v-else-if="rows && !rows.length" class="card empty">
      <h2>{{ t('Nothing has been issued yet') }}</h2>
      <p>{{ t('Each document that is issued gets a row here.') }}</p>
    </div>
    <section v-else v-loading="!rows" class="card list">
      <el-table :data="rows">
        <el-table-column :label="t('Row')" width="76" align="right"
          ><template #default="{ row }">{{ row.id }}</template></el-table-column
        >
        <el-table-column :label="t('What')" width="116"
          ><template #default="{ row }"><StateTag :state="row.kind" /></template
        ></el-table-column>
        <el-table-column :label="t('Number')" width="150"
          ><template #default="{ row }">{{ row.number }}</template></el-table-column
        >
        <el-table-column :label="t('Name')" min-width="200"
          ><template #default="{ row }"
            ><RouterLink :to="{ path: '/documents', query: { document: row.document } }">{{
              row.name
            }}</RouterLink></template
          ></el-table-column
        >
        <el-table-column :label="t('Who')" min-width="150" show-overflow-tooltip
          ><template #default="{ row }">{{ row.who }}</template></el-table-column
        >
        <el-table-column :label="t('When')" width="176" class-name="when"
          ><template #default="{ row }">{{ when(row.at) }}</template></el-table-column
        >
        <el-table-column :label="t('Checksum')" width="150"
          ><template #default="{ row }"
            ><span class="mono" :title="row.checksum">{{ row.checksum.slice(0, 12) }}…</span></template
          ></el-table-column
        >
      </el-table>
      <el-pagination v-model:current-page="page" layout="prev, pager, next, total" :page-size="size" :total="total" />
    </section>
  </div>
</template>

<style scoped>
.el-alert {
  margin-bottom: 16px;
}
</style>
