<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { service, type Delivery, type Overview } from '../api'
import { when } from '../format'
import { useSession } from '../stores/session'
import { t } from '../i18n'
import DayChart from '../parts/DayChart.vue'
import StateTag from '../parts/StateTag.vue'

const session = useSession()
const all = ref<Overview>()
const error = ref('')

onMounted(async () => {
  try {
    all.value = await service.overview()
  } catch (e) {
    error.value = (e as Error).message
  }
})

/** what waits for someone, with the place where it is done */
const waits = computed(() =>
  [
    {
      n: all.value!.waiting,
      one: '1 document waits to be approved',
      more: '{0} documents wait to be approved',
      state: 'draft',
    },
    {
      n: all.value!.approved,
      one: '1 approved document waits to be issued',
      more: '{0} approved documents wait to be issued',
      state: 'approved',
    },
  ].filter((x) => x.n > 0),
)
/** where a delivery is seen: with its document, or with the webhook that was to be told */
const placeOf = (d: Delivery) =>
  d.hook
    ? { path: '/settings', query: { tab: 'hooks', hook: d.hook } }
    : { path: '/documents', query: { document: d.document } }
const issued = computed(() => all.value!.days.reduce((sum, d) => sum + d.documents, 0))
const calm = computed(() => {
  const o = all.value!
  return !waits.value.length && !o.failed.length && !o.batches.length && !o.drafts.length
})
const fresh = computed(() => !all.value!.recent.length)
const steps = computed(() => [
  {
    to: '/templates',
    title: 'Make a template',
    text: 'Begin with one of ours, and change it beside its pages.',
    done: all.value!.templates > 0,
  },
  {
    to: '/records',
    title: 'Bring records',
    text: 'A file of JSON, CSV, XML, YAML or a workbook.',
    done: all.value!.recordSets > 0,
  },
  {
    to: '/batches',
    title: 'Make documents',
    text: 'One PDF for each record, named and numbered.',
    done: false,
  },
])
</script>

<template>
  <div class="view">
    <div class="head">
      <div class="grow">
        <h1>{{ t('Good to see you, {0}', session.person!.name) }}</h1>
        <p>{{ t('What waits for you, and what has come of late.') }}</p>
      </div>
    </div>
    <el-alert v-if="error" :title="t(error)" type="error" :closable="false" show-icon />
    <ol v-if="all && fresh" class="steps" data-test="steps">
      <li v-for="(s, i) in steps" :key="s.to" class="card">
        <RouterLink :to="s.to">
          <span class="number">{{ s.done ? '✓' : i + 1 }}</span>
          <b>{{ t(s.title) }}</b>
          <span class="soft">{{ t(s.text) }}</span>
        </RouterLink>
      </li>
    </ol>
    <div v-if="all && !(fresh && calm)" class="columns">
      <section class="card part" data-test="open">
        <h2>{{ t('To be done') }}</h2>
        <p v-if="calm" class="soft">{{ t('Nothing waits, nothing has failed.') }}</p>
        <ul>
          <li v-for="w in waits" :key="w.state">
            <RouterLink :to="{ path: '/documents', query: { state: w.state } }">
              {{ w.n === 1 ? t(w.one) : t(w.more, w.n) }}
            </RouterLink>
          </li>
        </ul>
        <template v-if="all.failed.length">
          <h3>{{ t('Deliveries that failed') }} · {{ all.failedDeliveries }}</h3>
          <ul>
            <li v-for="d in all.failed" :key="d.id">
              <RouterLink :to="placeOf(d)">{{ d.to || t(d.kind) }}</RouterLink>
              <span class="soft small why">{{ d.error }}</span>
            </li>
          </ul>
        </template>
        <template v-if="all.batches.length">
          <h3>{{ t('Batches') }}</h3>
          <ul>
            <li v-for="b in all.batches" :key="b.id">
              <RouterLink :to="{ path: '/batches', query: { batch: b.id } }">#{{ b.id }} · {{ b.template }}</RouterLink>
              <span class="grow" />
              <span v-if="b.failed" class="bad small">{{ t('{0} failed', b.failed) }}</span>
              <span class="soft small">{{ t('{0} of {1} made', b.done, b.total) }}</span>
              <StateTag :state="b.state" />
            </li>
          </ul>
        </template>
        <template v-if="all.drafts.length">
          <h3>{{ t('Templates left open') }}</h3>
          <ul>
            <li v-for="d in all.drafts" :key="d.name">
              <RouterLink :to="`/templates/${d.name}`">{{ d.title }}</RouterLink>
              <span class="grow" />
              <span class="soft small">{{ d.author }} · {{ when(d.updated) }}</span>
            </li>
          </ul>
        </template>
      </section>
      <div class="right">
        <section class="card part">
          <h2>{{ t('Issued in the last 31 days') }} · {{ issued }}</h2>
          <DayChart :days="all.days" :length="31" />
        </section>
        <section class="card part">
          <h2>{{ t('Latest documents') }}</h2>
          <p v-if="!all.recent.length" class="soft">{{ t('No documents yet') }}</p>
          <ul>
            <li v-for="d in all.recent" :key="d.id">
              <RouterLink :to="{ path: '/documents', query: { document: d.id } }">{{ d.number || d.name }}</RouterLink>
              <span class="soft title">{{ d.title }}</span>
              <StateTag :state="d.state" />
            </li>
          </ul>
        </section>
      </div>
    </div>
  </div>
</template>

<style scoped>
.columns {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 20px;
  align-items: start;
}
.right {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 20px;
}
.part {
  padding: 18px 22px 14px;
}
h3 {
  font-size: 14px;
  font-weight: 600;
  margin: 18px 0 2px;
  color: var(--ink-soft);
}
ul {
  list-style: none;
  margin: 6px 0 0;
  padding: 0;
}
ul li {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 10px;
  padding: 7px 0;
  border-top: 1px solid var(--line);
  font-variant-numeric: tabular-nums;
}
ul li:first-child {
  border-top: 0;
}
ul a {
  font-weight: 600;
  white-space: nowrap;
  text-decoration: none;
}
ul a:hover {
  text-decoration: underline;
}
.why,
.title {
  flex: 1 1 80px;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.bad {
  color: var(--bad);
}
li .small {
  white-space: nowrap;
}
.steps {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(240px, 1fr));
  gap: 20px;
  margin-bottom: 20px;
}
.steps a {
  display: grid;
  gap: 6px;
  padding: 24px;
  color: inherit;
  text-decoration: none;
}
.steps .number {
  width: 32px;
  height: 32px;
  border-radius: 50%;
  background: var(--tint);
  color: var(--olive-deep);
  font-weight: 650;
  display: grid;
  place-items: center;
}
.steps b {
  font-size: 17px;
}
@media (max-width: 860px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
