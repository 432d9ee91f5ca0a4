<script setup lang="ts">
import { computed } from 'vue'
import type { Day } from '../api'
import { day } from '../format'

/** a bar for each day up to today, also for those on which nothing was issued */
const props = defineProps<{ days: Day[]; length: number }>()

const bars = computed(() => {
  const known = new Map(props.days.map((d) => [d.day, d.documents]))
  const most = Math.max(1, ...known.values())
  return Array.from({ length: props.length }, (_, i) => {
    const date = new Date(Date.now() - (props.length - 1 - i) * 86_400_000).toISOString().slice(0, 10)
    const n = known.get(date) ?? 0
    return { date, n, height: n ? Math.max(3, (n / most) * 90) : 0 }
  })
})
const most = computed(() => Math.max(...bars.value.map((b) => b.n)))
const first = computed(() => day(bars.value[0].date))
const last = computed(() => day(bars.value[bars.value.length - 1].date))
</script>

<template>
  <figure>
    <svg :viewBox="`0 0 ${length * 12} 112`" role="img" :aria-label="`${first} – ${last}`">
      <text v-if="most" :x="length * 12" y="10" text-anchor="end">{{ most }}</text>
      <line x1="0" :x2="length * 12" y1="108.5" y2="108.5" />
      <rect
        v-for="(b, i) in bars"
        :key="b.date"
        :x="i * 12 + 1.5"
        :y="108 - b.height"
        width="9"
        :height="b.height"
        rx="1.5"
      >
        <title>{{ day(b.date) }}: {{ b.n }}</title>
      </rect>
    </svg>
    <figcaption class="soft small">
      <span>{{ first }}</span>
      <span>{{ last }}</span>
    </figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 10px 0 4px;
}
svg {
  width: 100%;
  display: block;
}
rect {
  fill: var(--olive);
}
line {
  stroke: var(--line);
}
text {
  font-size: 10px;
  fill: var(--ink-soft);
}
figcaption {
  display: flex;
  justify-content: space-between;
  margin-top: 4px;
}
</style>
