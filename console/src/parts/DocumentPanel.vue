<script setup lang="ts">
import { onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { ElMessage, ElMessageBox } from 'element-plus'
import {
  service,
  type Delivery,
  type DeliveryInput,
  type DocumentDetail,
  type DocumentState,
  type Event,
  type Share,
  type Way,
} from '../api'
import { kilobytes, day, when } from '../format'
import { useSession } from '../stores/session'
import { t } from '../i18n'
import { attempt } from '../attempt'
import PageView from './PageView.vue'
import StateTag from './StateTag.vue'

const session = useSession()
const props = defineProps<{ document: DocumentDetail }>()
const emit = defineEmits<{ changed: [DocumentDetail] }>()
const pages = ref<InstanceType<typeof PageView>>()
const tab = ref('details')
const history = ref<Event[]>([])
const deliveries = ref<Delivery[]>([])
const shares = ref<Share[]>([])
const delivery = ref({ kind: 'mail' as DeliveryInput['kind'], to: '', subject: '', body: '' })
const ways = ref<Way[]>([])
const share = ref({ days: 30, limit: 0, download: false })
const address = ref('')
const example = '{{.number}}'
let timer = 0

async function read() {
  const id = props.document.id
  await attempt(async () => {
    const [a, b, c] = await Promise.all([service.history(id), service.deliveries(id), service.shares(id)])
    history.value = a.items
    deliveries.value = b.items
    shares.value = c.items
  })
  // what is on its way is looked at again
  if (deliveries.value.some((d) => d.state === 'waiting' || d.state === 'claimed'))
    timer = window.setTimeout(read, 1200)
}

async function set(state: DocumentState) {
  const d = await attempt(async () => {
    let reason = ''
    if (state === 'void')
      reason = (
        await ElMessageBox.prompt(t('Why does it not count any more?'), t('Make void'), {
          confirmButtonText: t('Make void'),
          cancelButtonText: t('Cancel'),
          inputPattern: /\S/,
        })
      ).value
    return service.setDocument(props.document, state, reason)
  })
  if (d) {
    emit('changed', d)
    read()
  }
}

async function hold() {
  const d = await attempt(async () => {
    if (props.document.hold) return service.hold(props.document, '')
    const { value } = await ElMessageBox.prompt(t('Why must it stay, whatever its time?'), t('Hold'), {
      confirmButtonText: t('Hold'),
      cancelButtonText: t('Cancel'),
      inputPattern: /\S/,
    })
    return service.hold(props.document, value)
  })
  if (d) {
    emit('changed', d)
    read()
  }
}

async function again() {
  const out = await attempt(() => service.repeat(props.document.id))
  if (out)
    ElMessage({
      type: out.same ? 'success' : 'error',
      message: t(out.same ? 'The bytes are the same.' : 'The bytes differ.'),
    })
}

async function send() {
  if (
    await attempt(
      () => service.deliver({ document: props.document.id, ...delivery.value }),
      t('It waits for its turn.'),
    )
  )
    read()
}

async function link() {
  const out = await attempt(() => service.share({ document: props.document.id, ...share.value }))
  if (out) {
    address.value = out.address!
    read()
  }
}

async function revoke(s: Share) {
  await attempt(() => service.revokeShare(s.id))
  read()
}

async function learn() {
  ways.value = (await attempt(() => service.setup()))?.ways ?? []
  delivery.value.kind = ways.value.includes('mail') ? 'mail' : (ways.value[0] ?? 'mail')
}

async function draw() {
  if (props.document.erased) return
  await attempt(async () => {
    await pages.value?.show(await service.pdf(props.document.id), () => true)
  })
}

onMounted(() => {
  read()
  draw()
  learn()
})
watch(() => props.document.sha256, draw)
onBeforeUnmount(() => clearTimeout(timer))
</script>

<template>
  <div class="panel">
    <div v-if="document.erased" class="pages gone">
      <p>
        {{ t('Kept as long as it must be, and erased on {0}. The ledger still has its row.', day(document.erased)) }}
      </p>
    </div>
    <PageView v-else ref="pages" class="pages" />
    <div class="side form">
      <p class="buttons">
        <StateTag :state="document.state" /> <b>{{ document.number }}</b>
        <span class="grow" />
        <el-button
          v-if="document.state === 'draft' && session.may('approve')"
          type="primary"
          size="small"
          @click="set('approved')"
          >{{ t('Approve') }}</el-button
        >
        <el-button
          v-if="document.state === 'approved' && session.may('approve')"
          type="primary"
          size="small"
          @click="set('issued')"
          >{{ t('Issue') }}</el-button
        >
        <el-button
          v-if="document.state !== 'void' && session.may('approve')"
          size="small"
          data-test="void"
          @click="set('void')"
          >{{ t('Make void') }}</el-button
        >
      </p>
      <el-tabs v-model="tab">
        <el-tab-pane :label="t('Details')" name="details">
          <dl>
            <dt>{{ t('Template') }}</dt>
            <dd>
              <RouterLink v-if="document.template" :to="`/templates/${document.template}`">{{
                document.template
              }}</RouterLink>
              <template v-else>HTML</template> {{ document.version ? `v${document.version}` : '' }}
            </dd>
            <template v-if="document.record">
              <dt>{{ t('Record') }}</dt>
              <dd>
                <RouterLink
                  v-if="document.recordSet"
                  :to="{ path: '/records', query: { set: document.recordSet, record: document.record } }"
                  >{{ document.record }}</RouterLink
                >
                <template v-else>{{ document.record }}</template>
              </dd>
            </template>
            <template v-if="document.batch">
              <dt>{{ t('Batch') }}</dt>
              <dd>
                <RouterLink :to="{ path: '/batches', query: { batch: document.batch } }"
                  >#{{ document.batch }}</RouterLink
                >
              </dd>
            </template>
            <dt>{{ t('Pages') }}</dt>
            <dd>{{ document.pages }} · {{ kilobytes(document.bytes) }}</dd>
            <dt>{{ t('Made') }}</dt>
            <dd>{{ when(document.created) }}, {{ t('by {0}', document.author) }}</dd>
            <dt v-if="document.approver">{{ t('approved') }}</dt>
            <dd v-if="document.approver">{{ t('by {0}', document.approver) }}</dd>
            <dt v-if="document.reason">{{ t('void') }}</dt>
            <dd v-if="document.reason">{{ document.reason }}</dd>
            <template v-if="document.keepUntil"
              ><dt>{{ t('Kept until') }}</dt>
              <dd>{{ day(document.keepUntil) }}</dd></template
            >
            <template v-if="document.hold"
              ><dt>{{ t('Held') }}</dt>
              <dd>{{ document.hold }}</dd></template
            >
            <dt>SHA-256</dt>
            <dd class="mono">{{ document.sha256 }}</dd>
            <dt>{{ t('Public page') }}</dt>
            <dd class="mono">
              <a :href="document.verify" target="_blank" rel="noopener">{{ document.verify }}</a>
            </dd>
          </dl>
          <template v-if="!document.erased">
            <el-button size="small" @click="again">{{ t('Set again and compare') }}</el-button>
            <el-button
              v-if="session.may('keep') && (document.keepUntil || document.hold)"
              size="small"
              data-test="hold"
              @click="hold"
              >{{ t(document.hold ? 'Release' : 'Hold') }}</el-button
            >
          </template>
          <template v-if="document.findings?.length"
            ><h2>{{ t('Findings') }}</h2>
            <ul class="plain">
              <li v-for="(f, i) in document.findings" :key="i">
                <b>{{ t(f.severity) }}</b> {{ f.message }}
              </li>
            </ul></template
          >
        </el-tab-pane>
        <el-tab-pane v-if="session.may('send')" :label="t('Send')" name="send">
          <el-alert
            v-if="!ways.length"
            type="info"
            :closable="false"
            :title="t('No way of delivery is set up; see olive serve --help.')"
          />
          <label>{{ t('By') }}</label>
          <el-select v-model="delivery.kind"><el-option v-for="k in ways" :key="k" :value="k" :label="k" /></el-select>
          <label>{{ t('To') }}</label><el-input
            v-model="delivery.to"
            :placeholder="delivery.kind === 'mail' ? 'office@example.org' : ''"
          />
          <template v-if="delivery.kind === 'mail'">
            <label>{{ t('Subject') }}</label><el-input v-model="delivery.subject" :placeholder="document.title" />
            <label>{{ t('Text') }}</label><el-input v-model="delivery.body" type="textarea" :rows="4" />
          </template>
          <p class="hint">{{ t('Fields of the record may stand in all of these, such as {0}.', example) }}</p>
          <el-button type="primary" size="small" @click="send">{{ t('Send') }}</el-button>
          <h2 v-if="deliveries.length">{{ t('Deliveries') }}</h2>
          <ul class="plain">
            <li v-for="d in deliveries" :key="d.id">
              <StateTag :state="d.state" /> {{ d.kind }} → {{ d.to }}
              <span class="soft small">{{ when(d.sent ?? d.created) }}</span>
              <div v-if="d.error" class="bad small">{{ d.error }}</div>
            </li>
          </ul>
        </el-tab-pane>
        <el-tab-pane v-if="session.may('send')" :label="t('Share')" name="share">
          <label>{{ t('Days until it ends') }}</label><el-input-number v-model="share.days" :min="1" :max="3660" />
          <label>{{ t('How often it can be used; 0 for no limit') }}</label><el-input-number
            v-model="share.limit"
            :min="0"
          />
          <p>
            <el-checkbox v-model="share.download">{{ t('Download') }}</el-checkbox>
          </p>
          <el-button type="primary" size="small" @click="link">{{ t('Make a link') }}</el-button>
          <el-alert
            v-if="address"
            type="success"
            :closable="false"
            :title="t('Copy the link now: it is shown only once.')"
            ><span class="mono">{{ address }}</span></el-alert
          >
          <h2 v-if="shares.length">{{ t('Links') }}</h2>
          <ul class="plain">
            <li v-for="s in shares" :key="s.id">
              #{{ s.id }} · {{ s.uses }}{{ s.limit ? ` / ${s.limit}` : '' }} · {{ when(s.expires) }}
              <span v-if="s.revoked" class="soft">{{ t('revoked') }}</span><button
                v-else
                class="textLink"
                @click="revoke(s)"
              >
                {{ t('Revoke') }}
              </button>
            </li>
          </ul>
        </el-tab-pane>
        <el-tab-pane :label="t('History')" name="history">
          <el-timeline
            ><el-timeline-item v-for="h in history" :key="h.id" :timestamp="when(h.at)"
              ><b>{{ h.action }}</b> {{ t('by {0}', h.who) }}
              <div class="soft small">{{ h.detail }}</div></el-timeline-item
            ></el-timeline
          >
        </el-tab-pane>
      </el-tabs>
    </div>
  </div>
</template>

<style scoped>
.panel {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 380px;
  gap: 20px;
  height: 100%;
}
.pages {
  min-height: 420px;
  background: var(--desk);
  border-radius: 8px;
}
.gone {
  display: grid;
  place-items: center;
  padding: 24px;
  text-align: center;
  color: var(--ink-soft);
}
.side {
  overflow: auto;
}
.buttons {
  display: flex;
  align-items: center;
  gap: 8px;
  margin: 0 0 10px;
}
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 6px 16px;
  margin: 0 0 16px;
  font-size: 14px;
}
dt {
  color: var(--ink-soft);
}
dd {
  margin: 0;
  overflow-wrap: anywhere;
}
h2 {
  margin: 20px 0 8px;
}
.plain {
  list-style: none;
  padding: 0;
  margin: 0;
  font-size: 14px;
}
.plain li {
  padding: 7px 0;
  border-top: 1px solid var(--line);
  overflow-wrap: anywhere;
}
.bad {
  color: var(--bad);
}
.el-alert {
  margin-top: 12px;
}
.el-timeline {
  padding: 6px 0 0 4px;
}
@media (max-width: 860px) {
  .panel {
    grid-template-columns: 1fr;
    height: auto;
  }
}
</style>
