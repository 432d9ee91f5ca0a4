<script setup lang="ts">
import { computed } from 'vue'
import { valueAt } from '../composables/useRecordEdits'
import { t } from '../i18n'
import RecordCell from './RecordCell.vue'

// What a record holds beside its columns: more fields, and lists such as the lines of an invoice, each as a table.
const props = defineProps<{ data: Record<string, unknown>; fields: string[][]; record: number; editable: boolean }>()
const emit = defineEmits<{
  typed: [(string | number)[], string]
  pasted: [field: string, row: number, fields: string[], text: string]
}>()

const plain = (v: unknown) => v === null || typeof v !== 'object'
const lists = computed(() =>
  Object.entries(props.data)
    .filter(([, v]) => Array.isArray(v) && v.length && v.every((x) => !plain(x) && !Array.isArray(x)))
    .map(([name, v]) => {
      const rows = v as Record<string, unknown>[]
      const fields = [...new Set(rows.flatMap((r) => Object.keys(r)))].filter((f) => rows.every((r) => plain(r[f])))
      return { name, rows, fields }
    }),
)
</script>

<template>
  <div class="lists">
    <p v-if="!lists.length && !fields.length" class="soft small">{{ t('This record holds nothing else.') }}</p>
    <table v-if="fields.length">
      <tbody>
        <tr v-for="path in fields" :key="path.join('.')">
          <th scope="row">{{ path.join('.') }}</th>
          <td>
            <RecordCell
              :value="valueAt(data, path)"
              :label="`${path.join('.')}, ${t('Record')} ${record}`"
              :editable="editable"
              @typed="(text) => emit('typed', path, text)"
            />
          </td>
        </tr>
      </tbody>
    </table>
    <table v-for="list in lists" :key="list.name">
      <caption>
        {{
          list.name
        }}
      </caption>
      <thead>
        <tr>
          <th v-for="f in list.fields" :key="f">{{ f }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(row, i) in list.rows" :key="i">
          <td v-for="(f, k) in list.fields" :key="f" :class="{ n: typeof row[f] === 'number' }">
            <RecordCell
              :value="row[f]"
              :label="`${list.name} ${i + 1} ${f}, ${t('Record')} ${record}`"
              :editable="editable"
              @typed="(text) => emit('typed', [list.name, i, f], text)"
              @pasted="(text) => emit('pasted', list.name, i, list.fields.slice(k), text)"
            />
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.lists {
  padding: 4px 12px 12px 56px;
  overflow-x: auto;
}
table {
  border-collapse: collapse;
  font-size: 13px;
  margin-top: 6px;
}
caption {
  text-align: left;
  font-weight: 600;
  padding: 4px 0;
}
th {
  text-align: left;
  font-weight: 600;
  color: var(--ink-soft);
}
th,
td {
  padding: 3px 18px 3px 0;
  border-bottom: 1px solid var(--line);
  max-width: 260px;
}
.n {
  text-align: right;
  font-variant-numeric: tabular-nums;
}
</style>
