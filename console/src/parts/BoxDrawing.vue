<script setup lang="ts">
import { computed } from 'vue'
import type { Probed } from '../api'
import { t } from '../i18n'
import { boxesOf, boxParts } from './boxes'
import { sides } from './paper'

const props = defineProps<{ element: Probed }>()

const round = (n: number) => `${Math.round(n * 10) / 10}`
const content = computed(() => boxesOf(props.element).content)
/** The four widths of each part, from the top and clockwise. */
const parts = computed(() =>
  boxParts
    .slice(0, 3)
    .map((name) => ({ name, sides: props.element[name as 'margin' | 'border' | 'padding'].map(round) })),
)
const label = computed(
  () =>
    parts.value.map((p) => `${t(p.name)} ${p.sides.join(' ')}`).join(', ') +
    `, ${round(content.value[2])} × ${round(content.value[3])} px`,
)
</script>

<template>
  <div class="drawing" role="img" :aria-label="label">
    <div
      v-for="(p, depth) in parts"
      :key="p.name"
      :class="['part', p.name]"
      :style="{ inset: `${depth * 22}px ${depth * 34}px` }"
    >
      <i>{{ t(p.name) }}</i>
      <span v-for="(value, i) in p.sides" :key="i" :class="[sides[i], { none: value === '0' }]">{{ value }}</span>
    </div>
    <div class="part content">{{ round(content[2]) }} × {{ round(content[3]) }}</div>
  </div>
</template>

<style scoped>
.drawing {
  position: relative;
  flex: none;
  width: 290px;
  height: 162px;
  font-size: 11.5px;
  font-variant-numeric: tabular-nums;
}
.part {
  position: absolute;
  border: 1px solid var(--line);
  background: var(--card);
}
.margin {
  border-style: dashed;
}
.border {
  border-color: var(--ink-soft);
}
.padding {
  background: var(--paper);
}
.content {
  inset: 66px 102px;
  display: grid;
  place-items: center;
  border-color: var(--olive);
}
.part i {
  position: absolute;
  left: 6px;
  top: 4px;
  font-style: normal;
  font-size: 10.5px;
  color: var(--ink-soft);
}
.part span {
  position: absolute;
}
.none {
  color: var(--ink-soft);
}
.top,
.bottom {
  left: 50%;
  transform: translateX(-50%);
}
.top {
  top: 3px;
}
.bottom {
  bottom: 3px;
}
.left,
.right {
  top: 50%;
  transform: translateY(-50%);
  width: 32px;
  text-align: center;
}
.left {
  left: 0;
}
.right {
  right: 0;
}
</style>
