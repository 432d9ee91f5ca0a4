<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { t } from '../i18n'

const emit = defineEmits<{ drawn: [string] }>()
const canvas = ref<HTMLCanvasElement>()
const empty = ref(true)
let pen: CanvasRenderingContext2D
let last: [number, number] | undefined

const at = (e: PointerEvent): [number, number] => {
  const box = canvas.value!.getBoundingClientRect()
  return [
    ((e.clientX - box.left) / box.width) * canvas.value!.width,
    ((e.clientY - box.top) / box.height) * canvas.value!.height,
  ]
}
function down(e: PointerEvent) {
  canvas.value!.setPointerCapture(e.pointerId)
  last = at(e)
}
function move(e: PointerEvent) {
  if (!last) return
  const now = at(e)
  pen.lineWidth = 3 + 3 * (e.pressure || 0.4)
  pen.beginPath()
  pen.moveTo(...last)
  pen.lineTo(...now)
  pen.stroke()
  last = now
  empty.value = false
}
function clear() {
  pen.clearRect(0, 0, canvas.value!.width, canvas.value!.height)
  empty.value = true
}
onMounted(() => {
  pen = canvas.value!.getContext('2d')!
  pen.lineCap = 'round'
  pen.strokeStyle = '#14213d'
})
</script>

<template>
  <div>
    <canvas
      ref="canvas"
      width="960"
      height="320"
      :aria-label="t('Draw a signature')"
      @pointerdown="down"
      @pointermove="move"
      @pointerup="last = undefined"
      @pointercancel="last = undefined"
    />
    <p>
      <el-button size="small" :disabled="empty" @click="clear">{{ t('Clear') }}</el-button><el-button
        size="small"
        type="primary"
        :disabled="empty"
        data-test="sign"
        @click="emit('drawn', canvas!.toDataURL('image/png'))"
        >{{ t('Put into the record') }}</el-button
      >
    </p>
  </div>
</template>

<style scoped>
canvas {
  width: 100%;
  aspect-ratio: 3;
  background: #fff;
  border: 1px dashed var(--line);
  border-radius: 8px;
  touch-action: none;
  cursor: crosshair;
}
</style>
