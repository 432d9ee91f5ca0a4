<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { service, when, type TemplateRow } from '../api'
import PageThumb from '../parts/PageThumb.vue'

const list = ref<TemplateRow[]>()
const error = ref('')

onMounted(async () => {
  try {
    list.value = (await service.templates()).items
  } catch (e) {
    error.value = (e as Error).message
  }
})
</script>

<template>
  <div class="view">
    <div class="head">
      <div class="grow">
        <h1>Templates</h1>
        <p>Pages in HTML and CSS that records are merged into.</p>
      </div>
    </div>
    <el-alert v-if="error" :title="error" type="error" :closable="false" show-icon />
    <div v-else-if="list && list.length === 0" class="card empty">
      <h2>No template yet</h2>
      <p>Send a template folder from a terminal: <code>olive push templates/invoice</code></p>
    </div>
    <div v-else class="shelf" v-loading="!list">
      <RouterLink v-for="t in list" :key="t.name" class="card item" :to="`/templates/${t.name}`">
        <PageThumb :name="t.name" />
        <div class="text">
          <h2>{{ t.title }}</h2>
          <p class="soft">{{ t.name }} · version {{ t.latest }}<br />{{ when(t.updated) }}</p>
        </div>
      </RouterLink>
    </div>
  </div>
</template>

<style scoped>
.shelf { display: grid; grid-template-columns: repeat(auto-fill, minmax(290px, 1fr)); gap: 20px; min-height: 120px; }
.item { overflow: hidden; color: inherit; text-decoration: none; transition: box-shadow 0.15s, transform 0.15s; }
.item:hover, .item:focus-visible { box-shadow: 0 8px 28px rgb(56 71 28 / 14%); transform: translateY(-2px); }
.text { padding: 14px 18px 16px; border-top: 1px solid var(--line); }
.text p { margin: 4px 0 0; font-size: 14px; }
</style>
