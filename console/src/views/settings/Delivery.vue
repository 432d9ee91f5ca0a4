<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { service, type Setup } from '../../api'
import { attempt } from '../../attempt'
import { t } from '../../i18n'

const setup = ref<Setup>()
onMounted(async () => {
  setup.value = await attempt(() => service.setup())
})
</script>

<template>
  <section v-if="setup" class="card facts">
    <dl>
      <dt>{{ t('Public address') }}</dt>
      <dd class="mono">{{ setup.public }}</dd>
      <dt>{{ t('Ways of delivery') }}</dt>
      <dd>
        <el-tag v-for="w in setup.ways" :key="w" effect="plain">{{ w }}</el-tag><span
          v-if="!setup.ways.length"
          class="soft"
          >{{ t('No way of delivery is set up; see olive serve --help.') }}</span
        >
      </dd>
      <dt>{{ t('Hosts that may be sent to') }}</dt>
      <dd>
        <span v-for="h in setup.hosts" :key="h" class="mono">{{ h }} </span><span
          v-if="!setup.hosts.length"
          class="soft"
          >{{ t('none') }}</span
        >
      </dd>
      <dt>{{ t('Limits of a document') }}</dt>
      <dd>{{ t('{0} pages', setup.maxPages) }}, {{ setup.seconds }} s</dd>
      <dt>{{ t('Limit of a request') }}</dt>
      <dd>{{ Math.round(setup.maxBody / 1048576) }} MiB</dd>
      <dt>{{ t('Renderings at once') }}</dt>
      <dd>{{ setup.atOnce }}</dd>
    </dl>
    <p class="soft small">
      {{ t('These are set where the service is started: by options, the environment or a file.') }}
    </p>
  </section>
</template>

<style scoped>
.facts {
  padding: 18px 22px;
}
.facts dl {
  display: grid;
  grid-template-columns: 240px 1fr;
  gap: 10px 20px;
  margin: 0 0 14px;
}
.facts dt {
  color: var(--ink-soft);
}
.facts dd {
  margin: 0;
  display: flex;
  gap: 8px;
  flex-wrap: wrap;
}
</style>
