<script setup lang="ts">
import type { RecordSource } from '../composables/useRecordSource'
import { t } from '../i18n'

const props = defineProps<{ from: RecordSource }>()
const emit = defineEmits<{ changed: [] }>()
const { sets, source, choose, step, extreme } = props.from

/** Tells that another record is there, once it is. */
const then = (choice: Promise<void>) => choice.then(() => emit('changed'))
</script>

<template>
  <div class="step">
    <el-select
      :model-value="source.set"
      size="small"
      :aria-label="t('Record set')"
      @change="(set: number) => then(choose(set))"
    >
      <el-option :value="0" :label="t('Sample record')" />
      <el-option v-for="s in sets" :key="s.id" :value="s.id" :label="s.name" />
    </el-select>
    <template v-if="source.set">
      <el-button size="small" :disabled="source.number <= 1" @click="then(step(-1))">{{ t('Previous') }}</el-button>
      <span class="small">{{ t('Record {0} of {1}', source.number, source.count) }}</span>
      <el-button size="small" data-test="next" :disabled="source.number >= source.count" @click="then(step(1))">
        {{ t('Next') }}
      </el-button>
      <button class="textLink small" @click="then(extreme('size'))">{{ t('Shortest') }}</button>
      <button class="textLink small" data-test="longest" @click="then(extreme('-size'))">{{ t('Longest') }}</button>
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
