<script setup lang="ts">
import { computed, ref } from 'vue'
import { ElMessage, ElMessageBox } from 'element-plus'
import { service, type DocumentRow, type Way } from '../api'
import { attempt } from '../attempt'
import { t } from '../i18n'
import { useSession } from '../stores/session'

// What can be done with several documents at once.
const props = defineProps<{ documents: DocumentRow[] }>()
const emit = defineEmits<{ done: [] }>()
const session = useSession()
const busy = ref(false)
const sending = ref(false)
const ways = ref<Way[]>([])
const to = ref({ kind: 'mail' as Way, to: '' })

const inState = (state: string) => props.documents.filter((d) => d.state === state)
const drafts = computed(() => inState('draft'))
const approved = computed(() => inState('approved'))
const issued = computed(() => props.documents.filter((d) => d.state === 'issued' || d.state === 'sent'))
const ids = computed(() => props.documents.map((d) => d.id).join(','))

/** Does something with each of some documents, and tells with which it did not work, and why. */
async function each(list: DocumentRow[], what: (d: DocumentRow) => Promise<unknown>) {
  busy.value = true
  const failed: string[] = []
  for (const d of list) {
    await what(d).catch((e: Error) => failed.push(`${d.name}: ${t(e.message)}`))
  }
  busy.value = false
  emit('done')
  const good = list.length - failed.length
  if (good) ElMessage.success(t('{0} of {1} done', good, list.length))
  if (failed.length)
    await attempt(() => ElMessageBox.alert(failed.join('\n'), t('It did not work for {0}', failed.length)))
}

async function send() {
  sending.value = true
  ways.value = (await attempt(() => service.setup()))?.ways ?? []
  if (!ways.value.includes(to.value.kind)) to.value.kind = ways.value[0] ?? 'mail'
}
function sendAll() {
  sending.value = false
  return each(issued.value, (d) => service.deliver({ document: d.id, ...to.value }))
}
</script>

<template>
  <div class="chosen" role="group" :aria-label="t('{0} chosen', documents.length)" data-test="chosen">
    <b>{{ t('{0} chosen', documents.length) }}</b>
    <el-button
      v-if="drafts.length && session.may('approve')"
      size="small"
      :loading="busy"
      data-test="approve-all"
      @click="each(drafts, (d) => service.setDocument(d, 'approved'))"
    >
      {{ t('Approve {0}', drafts.length) }}
    </el-button>
    <el-button
      v-if="approved.length && session.may('approve')"
      size="small"
      :loading="busy"
      @click="each(approved, (d) => service.setDocument(d, 'issued'))"
    >
      {{ t('Issue {0}', approved.length) }}
    </el-button>
    <el-button v-if="issued.length && session.may('send')" size="small" :loading="busy" @click="send">
      {{ t('Send {0} …', issued.length) }}
    </el-button>
    <span class="grow" />
    <a :href="`/api/v1/documents/zip?ids=${ids}`" download>{{ t('As a ZIP file') }}</a>
    <a :href="`/api/v1/documents/bound?ids=${ids}`" download>{{ t('As one PDF') }}</a>
    <el-dialog v-model="sending" :title="t('Send {0} …', issued.length)" width="420" class="form">
      <p v-if="!ways.length">{{ t('No way of delivery is set up; see olive serve --help.') }}</p>
      <template v-else>
        <label for="chosen-way">{{ t('Way') }}</label>
        <el-select id="chosen-way" v-model="to.kind">
          <el-option v-for="k in ways" :key="k" :value="k" :label="k" />
        </el-select>
        <label for="chosen-to">{{ t('To') }}</label>
        <el-input id="chosen-to" v-model="to.to" />
      </template>
      <template #footer>
        <el-button @click="sending = false">{{ t('Cancel') }}</el-button>
        <el-button type="primary" :disabled="!ways.length" @click="sendAll">{{ t('Send') }}</el-button>
      </template>
    </el-dialog>
  </div>
</template>

<style scoped>
.chosen {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 14px;
  padding: 10px 16px;
  border-bottom: 1px solid var(--line);
  background: var(--tint);
  font-size: 14px;
}
.chosen .el-button {
  margin: 0;
}
</style>
