<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { drawPage, loadPages } from './pdf'

/** The PDF whose first page is drawn, and what to say when there is none. */
const props = defineProps<{ pdf: () => Promise<ArrayBuffer>; none: string }>()
const canvas = ref<HTMLCanvasElement>()
const failed = ref(false)

onMounted(async () => {
  try {
    const pdf = await loadPages(await props.pdf())
    await drawPage(pdf, 1, canvas.value!, 240)
    await pdf.destroy()
  } catch {
    failed.value = true
  }
})
</script>

<template>
  <div class="thumb" aria-hidden="true">
    <canvas v-show="!failed" ref="canvas" />
    <span v-if="failed" class="soft">{{ none }}</span>
  </div>
</template>

<style scoped>
.thumb {
  height: 230px;
  overflow: hidden;
  display: flex;
  justify-content: center;
  align-items: flex-start;
  padding-top: 22px;
  background: var(--desk);
}
canvas {
  background: #fff;
  box-shadow: 0 2px 14px rgb(0 0 0 / 16%);
  max-width: 86%;
  height: auto !important; /* as high as its width asks for */
}
</style>
