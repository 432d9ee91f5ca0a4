<script setup lang="ts">
import { ref } from 'vue'
import { service, type BatchOrder, type Trial } from '../api'
import { attempt } from '../attempt'
import { t } from '../i18n'
import PageThumb from './PageThumb.vue'

const props = defineProps<{ order: BatchOrder }>()
const rows = ref<Trial[]>()
const busy = ref(false)
const seen = ref<Trial>() // whose first page is shown

async function go() {
  busy.value = true
  seen.value = undefined
  rows.value = (await attempt(() => service.tryBatch(props.order)))?.items
  seen.value = rows.value?.find((r) => !r.error)
  busy.value = false
}
async function page(r: Trial) {
  const { template, recordSet } = props.order
  return (await service.render({ template, recordSet, number: r.record })).pdf
}
</script>

<template>
  <div class="trial">
    <el-button :loading="busy" size="small" data-test="try" @click="go">{{ t('Look at the first ten') }}</el-button>
    <div v-if="rows" class="found">
      <table>
        <thead>
          <tr>
            <th>{{ t('Record') }}</th>
            <th v-if="order.series">{{ t('Number') }}</th>
            <th>{{ t('File') }}</th>
            <th class="n">{{ t('Pages') }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in rows" :key="r.record" :class="{ now: r === seen }">
            <td>{{ r.record }}</td>
            <td v-if="order.series">{{ r.number || '–' }}</td>
            <td v-if="r.error" colspan="2" class="bad">{{ r.error }}</td>
            <template v-else>
              <td>
                <button class="textLink" @click="seen = r">{{ r.name }}</button>
              </td>
              <td class="n">{{ r.pages }}</td>
            </template>
          </tr>
        </tbody>
      </table>
      <PageThumb v-if="seen" :key="seen.record" :pdf="() => page(seen!)" :none="t('The page cannot be shown')" />
    </div>
    <p v-if="rows" class="hint">{{ t('Nothing was kept, and no number was taken.') }}</p>
  </div>
</template>

<style scoped>
.trial {
  margin-top: 14px;
}
.found {
  display: flex;
  gap: 16px;
  margin-top: 12px;
}
table {
  flex: 1;
  border-collapse: collapse;
  font-size: 13px;
  align-self: start;
}
th {
  text-align: left;
  color: var(--ink-soft);
  font-weight: 600;
}
th,
td {
  padding: 4px 10px 4px 0;
  border-bottom: 1px solid var(--line);
  vertical-align: top;
  font-variant-numeric: tabular-nums;
}
.n {
  text-align: right;
}
.now .textLink {
  text-decoration: underline;
}
.bad {
  color: var(--bad);
}
.found > :deep(.thumb) {
  flex: none;
  width: 190px;
}
</style>
