<script setup lang="ts">
import type { Finding } from '../api'
import { t } from '../i18n'

defineProps<{ findings: Finding[] }>()
const emit = defineEmits<{ chosen: [Finding] }>()
</script>

<template>
  <ol class="findings">
    <li v-for="(f, i) in findings" :key="i">
      <button class="textLink" @click="emit('chosen', f)">
        <b :class="f.severity">{{ t(f.severity) }}</b> {{ f.message }}
      </button>
      <span v-if="f.line" class="soft small"> {{ f.file }}:{{ f.line }}</span>
      <span v-if="f.page" class="soft small"> · {{ t('Page') }} {{ f.page }}</span>
      <div v-if="f.advice" class="soft small">{{ f.advice }}</div>
    </li>
  </ol>
</template>

<style scoped>
.findings {
  margin: 0;
  padding: 8px 18px 8px 40px;
  max-height: 34%;
  overflow: auto;
  background: var(--card);
  border-bottom: 1px solid var(--line);
  font-size: 14px;
}
li {
  padding: 6px 0;
}
li::marker {
  color: var(--ink-soft);
  font-size: 12.5px;
}
.textLink {
  font-weight: 400;
  color: inherit;
}
.warning {
  color: #be5a00;
}
.error {
  color: var(--bad);
}
.note {
  color: #1e6ea0;
}
</style>
