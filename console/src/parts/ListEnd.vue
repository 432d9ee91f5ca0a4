<script setup lang="ts">
import { onBeforeUnmount, onMounted, ref } from 'vue'
import { t } from '../i18n'

/** The end of a list that grows: it asks for more when it comes into view, and tells how much there is. */
const props = defineProps<{ shown: number; total: number; busy: boolean }>()
const emit = defineEmits<{ more: [] }>()
const end = ref<HTMLElement>()
let seen: IntersectionObserver | undefined
onMounted(() => {
  seen = new IntersectionObserver(
    (entries) => {
      if (entries.some((e) => e.isIntersecting) && props.shown < props.total) emit('more')
    },
    { rootMargin: '600px' },
  )
  seen.observe(end.value!)
})
onBeforeUnmount(() => seen?.disconnect())
</script>

<template>
  <p ref="end" class="soft small end" data-test="end">
    {{ t('{0} of {1}', shown, total) }}
    <button v-if="shown < total" class="textLink small" :disabled="busy" @click="emit('more')">{{ t('More') }}</button>
  </p>
</template>

<style scoped>
.end {
  display: flex;
  gap: 12px;
  justify-content: flex-end;
  margin: 10px 0 0;
}
</style>
