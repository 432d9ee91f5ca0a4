<script setup lang="ts">
import { t } from '../i18n'
defineProps<{ state: string }>()
const tone = {
  issued: 'success',
  sent: 'success',
  done: 'success',
  draft: 'info',
  approved: 'primary',
  running: 'primary',
  waiting: 'info',
  claimed: 'primary',
  paused: 'warning',
  void: 'danger',
  failed: 'danger',
  cancelled: 'info',
} as Record<string, 'success' | 'info' | 'primary' | 'warning' | 'danger'>
</script>

<template>
  <el-tag :type="tone[state] ?? 'info'" effect="plain" size="small">{{ t(state) }}</el-tag>
</template>
