<script setup lang="ts">
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { service, type Batch, type BatchState, type Item } from '../api'
import { span, when } from '../format'
import { useSession } from '../stores/session'
import { records as recordsOf, t } from '../i18n'
import { attempt } from '../attempt'
import { useList } from '../composables/useList'
import { useRate } from '../composables/useRate'
import { causesOf } from '../parts/causes'
import StartBatch from '../parts/StartBatch.vue'
import StateTag from '../parts/StateTag.vue'

const session = useSession()
const route = useRoute()
const router = useRouter()
const starting = ref(false)
const { rows, total, page, error, load, size } = useList((offset, limit) => service.batches({ offset, limit }), [])
const shown = ref<Batch>()
const failures = ref<Item[]>([])
const causes = computed(() => causesOf(failures.value))
const rate = useRate()
let stream: EventSource | undefined

/** follows a batch live; the browser asks again by itself when the line is cut */
function follow(b: Batch) {
  stream?.close()
  stream = undefined
  if (b.state === 'done' || b.state === 'cancelled') return
  stream = new EventSource(`/api/v1/batches/${b.id}/events`)
  stream.addEventListener('progress', (e) => take(JSON.parse((e as MessageEvent).data)))
  stream.addEventListener('end', () => stream?.close())
}

function take(b: Batch) {
  const before = shown.value?.failed
  rate.tell(b)
  shown.value = b
  const at = rows.value?.findIndex((x) => x.id === b.id) ?? -1
  if (at >= 0) rows.value![at] = b
  if (b.failed !== before) readFailures(b.id)
}

async function readFailures(id: number) {
  failures.value = (await attempt(() => service.failedItems(id)))?.items ?? []
}

async function show(id?: number) {
  stream?.close()
  if (!id) {
    shown.value = undefined
    return
  }
  const b = await attempt(() => service.batch(id))
  if (!b) return
  shown.value = undefined
  failures.value = []
  rate.forget()
  take(b)
  follow(b)
}

async function change(state: BatchState) {
  const b = await attempt(() => service.setBatch(shown.value!.id, state))
  if (b) {
    take(b)
    follow(b)
  }
}

async function retry() {
  const b = await attempt(() => service.retryBatch(shown.value!.id))
  if (b) {
    failures.value = []
    take(b)
    follow(b)
  }
}

const open = (b: Batch) => router.push({ query: { batch: b.id } })
const share = (b: Batch) => (b.total ? Math.round(((b.done + b.failed) / b.total) * 100) : 0)
const mostLinks = 12 // records of a cause that are named
const perSecond = (n: number) => (n < 10 ? n.toFixed(1) : Math.round(n).toString())
const busy = computed(() => shown.value?.state === 'running' || shown.value?.state === 'paused')
watch(
  () => route.query.batch,
  (id) => {
    show(Number(id) || undefined)
    load()
  },
  { immediate: true },
)
onBeforeUnmount(() => stream?.close())
</script>

<template>
  <div class="view">
    <div class="head">
      <div class="grow">
        <h1>{{ t('Batches') }}</h1>
        <p>{{ t('Documents of many records, made by the service in the background.') }}</p>
      </div>
      <el-button v-if="session.may('issue')" type="primary" @click="starting = true">{{
        t('Start a batch')
      }}</el-button>
    </div>
    <el-alert v-if="error" :title="error" type="error" :closable="false" show-icon />
    <div v-else-if="rows && !rows.length" class="card empty">
      <h2>{{ t('No batch yet') }}</h2>
      <p>{{ t('One PDF for each record of the set, from the published version.') }}</p>
    </div>
    <section v-else v-loading="!rows" class="card list">
      <el-table :data="rows">
        <el-table-column label="#" width="70" align="right"
          ><template #default="{ row }">{{ row.id }}</template></el-table-column
        >
        <el-table-column :label="t('Template')" min-width="190"
          ><template #default="{ row }"
            ><button class="textLink" @click="open(row)">{{ row.template }}</button> {{ ' '
            }}<span class="soft">v{{ row.version }}</span></template
          ></el-table-column
        >
        <el-table-column :label="t('State')" width="130"
          ><template #default="{ row }"><StateTag :state="row.state" /></template
        ></el-table-column>
        <el-table-column :label="t('Progress')" min-width="230"
          ><template #default="{ row }"
            ><el-progress
              :percentage="share(row)"
              :status="row.failed ? 'warning' : row.state === 'done' ? 'success' : ''"
              :stroke-width="8"
              ><span class="small soft">{{ row.done }} / {{ row.total }}</span></el-progress
            ></template
          ></el-table-column
        >
        <el-table-column :label="t('Started')" width="176" class-name="when"
          ><template #default="{ row }">{{ when(row.created) }}</template></el-table-column
        >
      </el-table>
      <el-pagination
        v-if="total > size"
        v-model:current-page="page"
        layout="prev, pager, next, total"
        :page-size="size"
        :total="total"
      />
    </section>
    <el-drawer
      :model-value="!!shown"
      size="560px"
      :title="shown ? `#${shown.id} · ${shown.template}` : ''"
      @close="router.push({ query: {} })"
    >
      <template v-if="shown">
        <el-progress
          :percentage="share(shown)"
          :stroke-width="12"
          :status="shown.failed ? 'warning' : shown.state === 'done' ? 'success' : ''"
        />
        <p data-test="progress">
          <StateTag :state="shown.state" /> &nbsp; {{ t('{0} of {1} made', shown.done, shown.total)
          }}<span v-if="shown.failed" class="bad"> · {{ t('{0} failed', shown.failed) }}</span>
          <span v-if="rate.rate.value" class="soft" data-test="rate">
            · {{ t('{0} a second', perSecond(rate.rate.value)) }}, {{ t('{0} left', span(rate.seconds.value!)) }}
          </span>
        </p>
        <p v-if="session.may('issue')" class="buttons">
          <el-button v-if="shown.state === 'running'" @click="change('paused')">{{ t('Pause') }}</el-button>
          <el-button v-if="shown.state === 'paused'" type="primary" @click="change('running')">{{
            t('Resume')
          }}</el-button>
          <el-button v-if="busy" @click="change('cancelled')">{{ t('Cancel') }}</el-button>
          <el-button v-if="shown.failed" type="primary" data-test="retry" @click="retry">{{
            t('Try again')
          }}</el-button>
        </p>
        <p v-if="shown.done" class="buttons">
          <a class="el-button" :href="`/api/v1/batches/${shown.id}/zip`" download>{{ t('All as ZIP') }}</a>
          <a class="el-button" :href="`/api/v1/batches/${shown.id}/pdf`" download>{{ t('Bound as one PDF') }}</a>
          <RouterLink class="el-button" :to="{ path: '/documents', query: { batch: shown.id } }">{{
            t('Show the documents')
          }}</RouterLink>
        </p>
        <template v-if="failures.length">
          <h2>{{ t('What failed') }}</h2>
          <ul class="failed">
            <li v-for="c in causes" :key="c.why">
              <p>
                <b>{{ recordsOf(c.records.length) }}:</b> {{ c.why }}
              </p>
              <RouterLink
                v-for="r in c.records.slice(0, mostLinks)"
                :key="r"
                :to="{ path: '/records', query: { set: shown.recordSet, record: r } }"
                :title="t('Mend the record')"
                >{{ t('Record') }} {{ r }}</RouterLink
              >
              <span v-if="c.records.length > mostLinks" class="soft">{{
                t('and {0} more', c.records.length - mostLinks)
              }}</span>
            </li>
          </ul>
        </template>
      </template>
    </el-drawer>
    <StartBatch v-model="starting" />
  </div>
</template>

<style scoped>
.buttons {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.buttons .el-button {
  margin: 0;
  text-decoration: none;
}
.bad {
  color: var(--bad);
  font-weight: 600;
}
.failed {
  list-style: none;
  padding: 0;
}
.failed p {
  margin: 0 0 4px;
}
.failed a {
  margin-right: 12px;
}
.failed li {
  padding: 10px 0;
  border-top: 1px solid var(--line);
  font-size: 14px;
}
</style>
