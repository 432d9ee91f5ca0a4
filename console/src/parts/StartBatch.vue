<script setup lang="ts">
import { onMounted, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { service, type RecordSet, type Series, type TemplateRow } from '../api'
import { records, t } from '../i18n'
import { attempt } from '../attempt'

const props = defineProps<{ template?: string; changed?: boolean }>()
const open = defineModel<boolean>({ required: true })
const router = useRouter()
const templates = ref<TemplateRow[]>([])
const sets = ref<RecordSet[]>([])
const series = ref<Series[]>([])
const chosen = ref({ template: '', recordSet: undefined as number | undefined, series: '', draft: false })
const busy = ref(false)

async function fill() {
  await attempt(async () => {
    const [a, b, c] = await Promise.all([service.templates(), service.recordSets(), service.series()])
    templates.value = a.items.filter((x) => x.latest > 0)
    sets.value = b.items
    series.value = c.items
    chosen.value.template = props.template ?? templates.value[0]?.name ?? ''
    chosen.value.recordSet ??= sets.value[0]?.id
  })
}
onMounted(fill)
watch(open, (now) => now && fill())

async function go() {
  const { recordSet, ...rest } = chosen.value
  if (!recordSet) return
  busy.value = true
  const b = await attempt(() => service.startBatch({ ...rest, recordSet }))
  busy.value = false
  if (b) {
    open.value = false
    router.push({ path: '/batches', query: { batch: b.id } })
  }
}
</script>

<template>
  <el-dialog v-model="open" :title="t('Start a batch')" width="520" class="form">
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
    <label for="batch-series">{{ t('Number series') }}</label>
    <el-select id="batch-series" v-model="chosen.series" size="large"
      ><el-option value="" :label="t('none')" /><el-option
        v-for="s in series"
        :key="s.id"
        :value="s.name"
        :label="`${s.name} — ${s.pattern}`"
    /></el-select>
    <p>
      <el-checkbox v-model="chosen.draft">{{ t('Documents wait to be approved') }}</el-checkbox>
    </p>
    <template #footer>
      <el-button @click="open = false">{{ t('Cancel') }}</el-button>
      <el-button
        type="primary"
        :disabled="!chosen.template || !chosen.recordSet"
        :loading="busy"
        data-test="start"
        @click="go"
        >{{ t('Start') }}</el-button
      >
    </template>
  </el-dialog>
</template>
