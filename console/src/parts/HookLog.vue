<script setup lang="ts">
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import { service, type Delivery, type Hook } from '../api'
import { attempt } from '../attempt'
import { when } from '../format'
import { t } from '../i18n'
import { told } from './happenings'
import StateTag from './StateTag.vue'

const props = defineProps<{ hook?: Hook }>()
defineEmits<{ close: [] }>()

const messages = ref<Delivery[]>()
const total = ref(0)
const page = ref(1)
const size = 20
const pause = 1500 // milliseconds, while something is under way
let timer = 0

const underWay = (d: Delivery) => d.state === 'waiting' || d.state === 'claimed'
const open = computed(() => !!props.hook)

async function read() {
  clearTimeout(timer)
  const id = props.hook?.id
  if (!id) return
  const list = await attempt(() => service.told(id, { offset: (page.value - 1) * size, limit: size }))
  if (!list || id !== props.hook?.id) return
  messages.value = list.items
  total.value = list.total
  if (list.items.some(underWay)) timer = window.setTimeout(read, pause)
}
async function again(d: Delivery) {
  await attempt(() => service.retryDelivery(d.id))
  read()
}
async function test() {
  await attempt(() => service.testHook(props.hook!.id))
  page.value = 1
  read()
}
watch(
  () => props.hook?.id,
  () => {
    messages.value = undefined
    page.value = 1
    read()
  },
)
watch(page, read)
onBeforeUnmount(() => clearTimeout(timer))
</script>

<template>
  <el-drawer :model-value="open" size="560px" :title="hook?.address" @close="$emit('close')">
    <p class="buttons">
      <el-button type="primary" @click="test">{{ t('Send a test') }}</el-button>
    </p>
    <p v-if="messages && !messages.length" class="soft">{{ t('It was told nothing yet.') }}</p>
    <ul class="plain">
      <li v-for="d in messages" :key="d.id">
        <div class="row">
          <StateTag :state="d.state" />
          <b>{{ t(told(d.event)) }}</b>
          <RouterLink v-if="d.document" :to="{ path: '/documents', query: { document: d.document } }">{{
            t('document {0}', d.document)
          }}</RouterLink>
          <RouterLink v-else-if="d.event === 'batch.ended'" :to="{ path: '/batches', query: { batch: d.about } }">{{
            t('batch {0}', d.about)
          }}</RouterLink>
          <span class="soft small when">{{ when(d.sent ?? d.created) }}</span>
          <button v-if="!underWay(d)" class="textLink" @click="again(d)">{{ t('Send again') }}</button>
        </div>
        <div v-if="d.error" class="bad small">
          {{ d.error }}<span v-if="d.tries > 1"> · {{ t('{0} tries', d.tries) }}</span>
        </div>
      </li>
    </ul>
    <el-pagination
      v-if="total > size"
      v-model:current-page="page"
      layout="prev, pager, next, total"
      :page-size="size"
      :total="total"
    />
  </el-drawer>
</template>

<style scoped>
.plain {
  list-style: none;
  padding: 0;
}
.plain li {
  padding: 10px 0;
  border-top: 1px solid var(--line);
  font-size: 14px;
}
.row {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 6px 10px;
}
.when {
  margin-left: auto;
}
.bad {
  color: var(--bad);
  margin-top: 4px;
}
</style>
