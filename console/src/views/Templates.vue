<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { service, type TemplateRow } from '../api'
import { when } from '../format'
import { useSession } from '../stores/session'
import { t } from '../i18n'
import NewTemplate from '../parts/NewTemplate.vue'
import PageThumb from '../parts/PageThumb.vue'

const session = useSession()
const list = ref<TemplateRow[]>()
const error = ref('')
const adding = ref(false)

onMounted(async () => {
  try {
    list.value = (await service.templates()).items
  } catch (e) {
    error.value = (e as Error).message
  }
})

/** what a template looks like: its newest version, or its draft before the first */
async function look(x: TemplateRow) {
  const what = x.latest ? { template: x.name } : { files: (await service.draft(x.name)).files }
  return (await service.render(what)).pdf
}
</script>

<template>
  <div class="view">
    <div class="head">
      <div class="grow">
        <h1>{{ t('Templates') }}</h1>
        <p>{{ t('Pages in HTML and CSS that records are merged into.') }}</p>
      </div>
      <el-button v-if="session.may('design')" type="primary" data-test="new" @click="adding = true">{{
        t('New template')
      }}</el-button>
    </div>
    <el-alert v-if="error" :title="error" type="error" :closable="false" show-icon />
    <div v-else-if="list && list.length === 0" class="card empty">
      <h2>{{ t('No template yet') }}</h2>
      <p>
        {{ t('Begin with one of ours, or send a folder from a terminal:') }} <code>olive template push my-invoice</code>
      </p>
    </div>
    <div v-else v-loading="!list" class="shelf">
      <RouterLink v-for="x in list" :key="x.name" class="card item" :to="`/templates/${x.name}`">
        <PageThumb :pdf="() => look(x)" :none="t('No preview: the sample record does not merge')" />
        <div class="text">
          <h2>{{ x.title }}</h2>
          <p class="soft">
            {{ x.name }} · {{ x.latest ? t('version {0}', x.latest) : t('not published') }}<br />{{ when(x.updated) }}
          </p>
        </div>
      </RouterLink>
    </div>
    <NewTemplate v-model="adding" :taken="list ?? []" />
  </div>
</template>

<style scoped>
.shelf {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(290px, 1fr));
  gap: 20px;
  min-height: 120px;
}
.item {
  overflow: hidden;
  color: inherit;
  text-decoration: none;
  transition:
    box-shadow 0.15s,
    transform 0.15s;
}
.item:hover,
.item:focus-visible {
  box-shadow: 0 8px 28px rgb(56 71 28 / 14%);
  transform: translateY(-2px);
}
.text {
  padding: 14px 18px 16px;
  border-top: 1px solid var(--line);
}
.text p {
  margin: 4px 0 0;
  font-size: 14px;
}
</style>
