<script setup lang="ts">
import type { RecordSet } from '../api'
import { t } from '../i18n'

defineProps<{ sets: RecordSet[]; source: { set: number; number: number; count: number } }>()
const emit = defineEmits<{ choose: [number]; step: [number]; extreme: ['size' | '-size'] }>()
</script>

<template>
  <div class="step">
    <el-select
      :model-value="source.set"
      size="small"
      :aria-label="t('Record set')"
      @change="(set: number) => emit('choose', set)"
    >
      <el-option :value="0" :label="t('Sample record')" />
      <el-option v-for="s in sets" :key="s.id" :value="s.id" :label="s.name" />
    </el-select>
    <template v-if="source.set">
      <el-button size="small" :disabled="source.number <= 1" @click="emit('step', -1)">{{ t('Previous') }}</el-button>
      <span class="small">{{ t('Record {0} of {1}', source.number, source.count) }}</span>
      <el-button size="small" data-test="next" :disabled="source.number >= source.count" @click="emit('step', 1)">
        {{ t('Next') }}
      </el-button>
      <button class="textLink small" @click="emit('extreme', 'size')">{{ t('Shortest') }}</button>
      <button class="textLink small" data-test="longest" @click="emit('extreme', '-size')">{{ t('Longest') }}</button>
    </template>
  </div>
</template>

<style scoped>
.step {
  display: flex;
  align-items: center;
  flex-wrap: wrap;
  gap: 4px 10px;
  white-space: nowrap;
}
.el-select {
  width: 200px;
}
</style>
