<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { service, type Series } from '../../api'
import { attempt } from '../../attempt'
import { t } from '../../i18n'
import { useSession } from '../../stores/session'

const session = useSession()
const series = ref<Series[]>()
const number = ref({ name: '', pattern: 'INV-{year}-{number:4}', next: 1, approval: false })

async function read() {
  series.value = (await attempt(() => service.series()))?.items
}
async function addSeries() {
  if (!(await attempt(() => service.addSeries(number.value), t('Kept')))) return
  number.value.name = ''
  read()
}
async function setSeries(x: Series, approval: boolean) {
  await attempt(() => service.setSeries(x.id, { approval }), t('Kept'))
  read()
}
onMounted(read)
</script>

<template>
  <section class="card list">
    <el-table :data="series">
      <el-table-column :label="t('Name')" min-width="180"
        ><template #default="{ row }">{{ row.name }}</template></el-table-column
      >
      <el-table-column :label="t('Pattern')" min-width="220"
        ><template #default="{ row }"
          ><span class="mono">{{ row.pattern }}</span></template
        ></el-table-column
      >
      <el-table-column :label="t('Next number')" width="150" align="right"
        ><template #default="{ row }">{{ row.next }}</template></el-table-column
      >
      <el-table-column :label="t('To be approved')" width="180" align="center"
        ><template #default="{ row }"
          ><el-switch
            :model-value="row.approval"
            :disabled="!session.may('keep')"
            :aria-label="t('To be approved')"
            @change="(v: string | number | boolean) => setSeries(row, !!v)" /></template
      ></el-table-column>
    </el-table>
  </section>
  <form v-if="session.may('keep')" class="card line" @submit.prevent="addSeries">
    <el-input v-model="number.name" :placeholder="t('Name')" :aria-label="t('Name')" /><el-input
      v-model="number.pattern"
      :placeholder="t('Pattern')"
      :aria-label="t('Pattern')"
    /><el-input-number v-model="number.next" :min="1" :aria-label="t('Next number')" />
    <el-checkbox v-model="number.approval" :label="t('Someone else approves')" />
    <el-button native-type="submit" type="primary">{{ t('Add a series') }}</el-button>
  </form>
</template>
