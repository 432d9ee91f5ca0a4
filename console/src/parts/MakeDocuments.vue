<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { service, type DocumentRow, type RecordSet } from '../api'

const props = defineProps<{ template: string; sets: RecordSet[]; changed: boolean }>()
const open = defineModel<boolean>({ required: true })
const set = ref<number>()
const busy = ref(false)
const error = ref('')
const made = ref<DocumentRow[]>()
const failed = computed(() => made.value?.filter((d) => d.error) ?? [])

watch(open, (now) => {
  if (now) {
    made.value = undefined
    error.value = ''
    set.value = props.sets[0]?.id
  }
})

async function go() {
  busy.value = true
  error.value = ''
  try {
    made.value = (await service.issue(props.template, set.value!, [])).items
  } catch (e) {
    error.value = (e as Error).message
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <el-dialog v-model="open" title="Make documents" width="520">
    <template v-if="made">
      <el-result :icon="failed.length ? 'warning' : 'success'" :title="`${made.length - failed.length} documents made`" :sub-title="failed.length ? `${failed.length} records failed` : 'They are in Documents now.'" />
      <ul v-if="failed.length" class="failed"><li v-for="d in failed" :key="d.record">{{ d.error }}</li></ul>
    </template>
    <template v-else>
      <p v-if="!sets.length">There are no records yet. Import a file under <RouterLink to="/records">Records</RouterLink> first.</p>
      <template v-else>
        <p>One PDF for each record of the set, from the published version.</p>
        <el-alert v-if="changed" type="warning" :closable="false" title="Your changes are not published: they will not be in the documents." show-icon />
        <label for="set">Record set</label>
        <el-select id="set" v-model="set" size="large">
          <el-option v-for="s in sets" :key="s.id" :value="s.id" :label="`${s.name} — ${s.count} records`" />
        </el-select>
      </template>
      <el-alert v-if="error" :title="error" type="error" :closable="false" show-icon />
    </template>
    <template #footer>
      <template v-if="made">
        <el-button @click="open = false">Close</el-button>
        <RouterLink to="/documents" class="link"><el-button type="primary">Go to Documents</el-button></RouterLink>
      </template>
      <template v-else>
        <el-button @click="open = false">Cancel</el-button>
        <el-button type="primary" :disabled="!set" :loading="busy" data-test="make" @click="go">Make them</el-button>
      </template>
    </template>
  </el-dialog>
</template>

<style scoped>
p { margin: 0 0 14px; }
label { display: block; font-weight: 600; font-size: 14px; margin: 14px 0 6px; }
.el-alert { margin-top: 12px; }
.failed { max-height: 220px; overflow: auto; padding-left: 20px; color: #8a3b12; }
.link { margin-left: 12px; }
</style>
