<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import { ElMessageBox } from 'element-plus'
import { service, session, when, type TemplateRow } from '../api'
import { t } from '../look'
import { attempt } from '../use'
import PageThumb from '../parts/PageThumb.vue'

const router = useRouter()
const list = ref<TemplateRow[]>()
const error = ref('')

onMounted(async () => {
  try {
    list.value = (await service.templates()).items
  } catch (e) {
    error.value = (e as Error).message
  }
})

/** a first page that shows how fields come in */
const first = {
  'template.yaml': {
    text: "title: New template\npage: page.html\nstyles: [style.css]\nsample: sample.json\nfilename: '{{.name}}.pdf'\n",
  },
  'page.html': {
    text: '<!DOCTYPE html>\n<html lang="en">\n<head>\n<meta charset="utf-8">\n<title>For {{.name}}</title>\n<link rel="stylesheet" href="style.css">\n</head>\n<body>\n<h1>Dear {{.name}}</h1>\n<p>Write your page here.</p>\n</body>\n</html>\n',
  },
  'style.css': { text: '@page { size: A4; margin: 25mm 22mm }\nbody { font: 11pt/1.5 sans-serif; color: #222 }\n' },
  'sample.json': { text: '{\n  "name": "Ada Berg"\n}\n' },
}

async function add() {
  const name = await attempt(
    async () =>
      (
        await ElMessageBox.prompt(t('A name for the template: small letters, digits and hyphens'), t('New template'), {
          inputPattern: /^[a-z0-9][a-z0-9-]{0,99}$/,
          confirmButtonText: t('Add'),
          cancelButtonText: t('Cancel'),
        })
      ).value,
  )
  if (name && (await attempt(() => service.saveDraft(name, first, 0)))) router.push(`/templates/${name}`)
}
</script>

<template>
  <div class="view">
    <div class="head">
      <div class="grow">
        <h1>{{ t('Templates') }}</h1>
        <p>{{ t('Pages in HTML and CSS that records are merged into.') }}</p>
      </div>
      <el-button v-if="session.may('design')" type="primary" data-test="new" @click="add">{{
        t('New template')
      }}</el-button>
    </div>
    <el-alert v-if="error" :title="error" type="error" :closable="false" show-icon />
    <div v-else-if="list && list.length === 0" class="card empty">
      <h2>{{ t('No template yet') }}</h2>
      <p>{{ t('Send a template folder from a terminal:') }} <code>olive template push templates/invoice</code></p>
    </div>
    <div v-else class="shelf" v-loading="!list">
      <RouterLink v-for="x in list" :key="x.name" class="card item" :to="`/templates/${x.name}`">
        <PageThumb :name="x.name" :draft="x.latest === 0" />
        <div class="text">
          <h2>{{ x.title }}</h2>
          <p class="soft">
            {{ x.name }} · {{ x.latest ? t('version {0}', x.latest) : t('not published') }}<br />{{ when(x.updated) }}
          </p>
        </div>
      </RouterLink>
    </div>
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
