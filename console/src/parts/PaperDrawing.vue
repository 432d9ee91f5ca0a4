<script setup lang="ts">
import { computed, ref } from 'vue'
import { t } from '../i18n'
import { sideNames, sides, type Side } from './paper'

const props = defineProps<{ size: [number, number]; margins: Record<Side, number> }>()
const emit = defineEmits<{ move: [Side, number] }>()

const drawing = ref<SVGSVGElement>()
const ends = computed(() => {
  const [w, h] = props.size
  const m = props.margins
  return {
    top: { x1: 0, y1: m.top, x2: w, y2: m.top },
    right: { x1: w - m.right, y1: 0, x2: w - m.right, y2: h },
    bottom: { x1: 0, y1: h - m.bottom, x2: w, y2: h - m.bottom },
    left: { x1: m.left, y1: 0, x2: m.left, y2: h },
  }
})
const area = computed(() => {
  const [w, h] = props.size
  const { top, right, bottom, left } = props.margins
  return { x: left, y: top, width: Math.max(0, w - left - right), height: Math.max(0, h - top - bottom) }
})

const most = (side: Side) => Math.floor((side === 'top' || side === 'bottom' ? props.size[1] : props.size[0]) * 0.45)
function move(side: Side, mm: number) {
  emit('move', side, Math.min(most(side), Math.max(0, Math.round(mm))))
}
function drag(side: Side, e: PointerEvent) {
  if (!(e.target as Element).hasPointerCapture(e.pointerId)) return
  const box = drawing.value!.getBoundingClientRect()
  const [w, h] = props.size
  const x = ((e.clientX - box.left) / box.width) * w
  const y = ((e.clientY - box.top) / box.height) * h
  move(side, { top: y, right: w - x, bottom: h - y, left: x }[side])
}
/** Arrows move an edge the way they point. */
function key(side: Side, e: KeyboardEvent) {
  const inwards = { top: 'ArrowDown', right: 'ArrowLeft', bottom: 'ArrowUp', left: 'ArrowRight' }[side]
  const outwards = { top: 'ArrowUp', right: 'ArrowRight', bottom: 'ArrowDown', left: 'ArrowLeft' }[side]
  if (e.key !== inwards && e.key !== outwards) return
  e.preventDefault()
  move(side, props.margins[side] + (e.key === inwards ? 1 : -1))
}
</script>

<template>
  <svg ref="drawing" class="drawing" :viewBox="`0 0 ${size[0]} ${size[1]}`" :aria-label="t('Margins')" role="group">
    <rect class="sheet" :width="size[0]" :height="size[1]" />
    <rect class="area" v-bind="area" />
    <g v-for="side in sides" :key="side">
      <line class="edge" v-bind="ends[side]" />
      <line
        class="handle"
        :class="side"
        v-bind="ends[side]"
        tabindex="0"
        role="slider"
        :aria-label="t(sideNames[side])"
        :aria-valuenow="margins[side]"
        aria-valuemin="0"
        :aria-valuemax="most(side)"
        :aria-valuetext="`${margins[side]} mm`"
        @pointerdown="(e) => (e.target as Element).setPointerCapture(e.pointerId)"
        @pointermove="drag(side, $event)"
        @keydown="key(side, $event)"
      />
    </g>
  </svg>
</template>

<style scoped>
.drawing {
  display: block;
  height: 176px;
  max-width: 100%;
  touch-action: none;
}
.sheet {
  fill: #fff;
  stroke: var(--ink-soft);
  stroke-width: 0.5;
}
.area {
  fill: rgb(85 104 47 / 10%);
}
.edge {
  stroke: #55682f;
  stroke-width: 1;
  stroke-dasharray: 4 3;
}
.handle {
  stroke: transparent;
  stroke-width: 10;
}
.handle:hover,
.handle:focus-visible {
  stroke: rgb(85 104 47 / 25%);
  outline: none;
}
.top,
.bottom {
  cursor: ns-resize;
}
.left,
.right {
  cursor: ew-resize;
}
</style>
