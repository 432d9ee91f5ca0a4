<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { service, type RecordRow } from '../api'
import { useSession } from '../stores/session'
import { t } from '../i18n'
import { attempt } from '../attempt'
import CodeEditor from './CodeEditor.vue'
import SignaturePad from './SignaturePad.vue'

const session = useSession()
const props = defineProps<{ set: number; record?: RecordRow }>()
const emit = defineEmits<{ saved: [RecordRow] }>()
const open = defineModel<boolean>({ required: true })
const text = ref('')
const signing = ref(false)
const field = ref('signature')
const fault = computed(() => {
  try {
    const v = JSON.parse(text.value)
    return v && typeof v === 'object' && !Array.isArray(v) ? '' : '{ }'
  } catch (e) {
    return (e as Error).message
  }
})

watch(
  () => [open.value, props.record],
  () => {
    text.value = JSON.stringify(props.record?.data ?? {}, null, 2)
    signing.value = false
  },
  { immediate: true },
)

function sign(picture: string) {
  text.value = JSON.stringify({ ...JSON.parse(text.value), [field.value]: picture }, null, 2)
  signing.value = false
}

async function save() {
  const data = JSON.parse(text.value)
  const out = await attempt(
    () =>
      props.record
        ? service.saveRecord(props.set, props.record.number, data, props.record.revision)
        : service.addRecord(props.set, data),
    t('Kept'),
  )
  if (out) {
    emit('saved', out)
    open.value = false
  }
}
</script>

<template>
  <el-drawer
    v-model="open"
    size="620px"
    :title="record ? `${t('Record')} ${record.number}` : t('Add a record')"
    destroy-on-close
  >
    <div class="editor form">
      <CodeEditor v-model="text" file="record.json" />
      <el-alert v-if="fault" type="warning" :closable="false" :title="t('The record is not JSON: {0}', fault)" />
      <div v-if="signing">
        <label>{{ t('Picture field') }}</label><el-input v-model="field" /><SignaturePad @drawn="sign" />
      </div>
    </div>
    <template #footer>
      <el-button v-if="!signing" :disabled="!!fault" data-test="draw" @click="signing = true">{{
        t('Draw a signature')
      }}</el-button>
      <el-button @click="open = false">{{ t('Cancel') }}</el-button>
      <el-button v-if="session.may('records')" type="primary" :disabled="!!fault" data-test="save" @click="save">{{
        t('Save')
      }}</el-button>
    </template>
  </el-drawer>
</template>

<style scoped>
.editor {
  display: flex;
  flex-direction: column;
  height: 100%;
  gap: 10px;
}
.editor > :first-child {
  border: 1px solid var(--line);
  border-radius: 8px;
  overflow: hidden;
  min-height: 240px;
}
</style>
