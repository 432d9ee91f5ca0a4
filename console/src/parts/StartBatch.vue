<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { service, type BatchOrder, type RecordSet, type Series, type TemplateRow } from '../api'
import { records, t } from '../i18n'
import { attempt } from '../attempt'
import BatchTrial from './BatchTrial.vue'

const props = defineProps<{ template?: string; changed?: boolean }>()
const open = defineModel<boolean>({ required: true })
const router = useRouter()
const templates = ref<TemplateRow[]>([])
const sets = ref<RecordSet[]>([])
const series = ref<Series[]>([])
const chosen = ref({ template: '', recordSet: undefined as number | undefined, series: '', draft: false })
const busy = ref(false)
const known = ref(false) // what there is to choose from
/** What is to be made, once it is known what of. */
const order = computed<BatchOrder | undefined>(() => {
  const { recordSet, ...rest } = chosen.value
  return recordSet && rest.template ? { ...rest, recordSet } : undefined
})

async function fill() {
  await attempt(async () => {
    const [a, b, c] = await Promise.all([service.templates(), service.recordSets(), service.series()])
    templates.value = a.items.filter((x) => x.latest > 0)
    sets.value = b.items
    series.value = c.items
    chosen.value.template = props.template ?? templates.value[0]?.name ?? ''
    chosen.value.recordSet ??= sets.value[0]?.id
    known.value = true
  })
}
onMounted(fill)
watch(open, (now) => now && fill())

async function go() {
  const what = order.value
  if (!what) return
  busy.value = true
  const b = await attempt(() => service.startBatch(what))
  busy.value = false
  if (b) {
    open.value = false
    router.push({ path: '/batches', query: { batch: b.id } })
  }
}
</script>

<template>
  <el-dialog v-model="open" :title="t('Start a batch')" width="min(640px, 94vw)" class="form">
    <p>{{ t('One PDF for each record of the set, from the published version.') }}</p>
    <el-alert
      v-if="changed"
      type="warning"
      :closable="false"
      :title="t('Your changes are not published: they will not be in the documents.')"
      show-icon
    />
    <label for="batch-template">{{ t('Template') }}</label>
    <el-select id="batch-template" v-model="chosen.template" size="large"
      ><el-option
        v-for="x in templates"
        :key="x.name"
        :value="x.name"
        :label="`${x.title} — ${t('version {0}', x.latest)}`"
    /></el-select>
    <label for="batch-set">{{ t('Record set') }}</label>
    <el-select id="batch-set" v-model="chosen.recordSet" size="large"
      ><el-option v-for="s in sets" :key="s.id" :value="s.id" :label="`${s.name} — ${records(s.count)}`"
    /></el-select>
    <p v-if="known && !sets.length" class="hint">
      {{ t('No records yet') }} — <RouterLink to="/records">{{ t('Import a file') }}</RouterLink>
    </p>
    <label for="batch-series">{{ t('Number series') }}</label>
    <el-select id="batch-series" v-model="chosen.series" :placeholder="t('none')" size="large"
      ><el-option value="" :label="t('none')" /><el-option
        v-for="s in series"
        :key="s.id"
        :value="s.name"
        :label="`${s.name} — ${s.pattern}`"
    /></el-select>
    <p>
      <el-checkbox v-model="chosen.draft">{{ t('Documents wait to be approved') }}</el-checkbox>
    </p>
    <BatchTrial v-if="open && order" :key="JSON.stringify(order)" :order="order" />
    <template #footer>
      <el-button @click="open = false">{{ t('Cancel') }}</el-button>
      <el-button type="primary" :disabled="!order" :loading="busy" data-test="start" @click="go">{{
        t('Start')
      }}</el-button>
    </template>
  </el-dialog>
</template>
