<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, toRef, watch } from 'vue'
import type { RecordRow } from '../api'
import { asBefore, cellsOf, useRecordEdits, valueAt, type Change } from '../composables/useRecordEdits'
import { plainPaths } from './recordfields'
import { t } from '../i18n'
import RecordCell from './RecordCell.vue'
import RecordLists from './RecordLists.vue'

const props = defineProps<{ set: number; rows?: RecordRow[]; editable: boolean; issues: boolean }>()
const emit = defineEmits<{ open: [RecordRow]; make: [RecordRow]; stale: [] }>()
const { change, undo, redo, forget, canUndo, canRedo } = useRecordEdits(() => props.set, toRef(props, 'rows'))
watch(() => props.set, forget)

/** what names a record stands first, or what stands in it; what lies deeper comes last */
const rank = (path: string[]) => {
  const i = ['number', 'name', 'title', 'id'].indexOf(path.at(-1)!.toLowerCase())
  return (i < 0 ? 9 : i) * 10 + path.length
}
/** the plain values of records by their paths, the first few of which the table shows; the others open below */
const paths = (data: unknown) => plainPaths(data).sort((a, b) => rank(a) - rank(b))
const columns = computed(() => {
  const first = props.rows?.[0]?.data
  const short = (path: string[]) => String(valueAt(first, path)).length < 200
  return paths(first).filter(short).slice(0, 5)
})
const rest = (data: unknown) => paths(data).filter((p) => !columns.value.some((c) => c.join('.') === p.join('.')))

async function keep(changes: Change[]) {
  if (changes.length && !(await change(changes))) emit('stale')
}
const to = (row: RecordRow, path: Change['path'], text: string): Change => ({
  record: row.number,
  path,
  value: asBefore(valueAt(row.data, path), text),
})

/** Cells of a spreadsheet fill those from here on, to the right and downwards, as far as there are any. */
function paste(row: RecordRow, column: number, text: string) {
  const from = props.rows!.findIndex((r) => r.number === row.number)
  const across = columns.value.slice(column)
  keep(
    cellsOf(text).flatMap((cells, i) => {
      const below = props.rows![from + i]
      return below ? cells.slice(0, across.length).map((cell, k) => to(below, across[k], cell.trim())) : []
    }),
  )
}
function pasteLines(row: RecordRow, list: string, line: number, across: string[], text: string) {
  const lines = row.data[list] as unknown[]
  keep(
    cellsOf(text).flatMap((cells, i) =>
      line + i < lines.length
        ? cells.slice(0, across.length).map((cell, k) => to(row, [list, line + i, across[k]], cell.trim()))
        : [],
    ),
  )
}

function key(e: KeyboardEvent) {
  if (!(e.ctrlKey || e.metaKey) || e.key.toLowerCase() !== 'z') return
  if ((e.target as HTMLElement).closest('[contenteditable], input, textarea')) return // its own typing
  e.preventDefault()
  if (e.shiftKey) redo()
  else undo()
}
onMounted(() => window.addEventListener('keydown', key))
onBeforeUnmount(() => window.removeEventListener('keydown', key))
</script>

<template>
  <div class="grid">
    <p v-if="canUndo || canRedo" class="steps">
      <button class="textLink small" :disabled="!canUndo" data-test="undo" @click="undo">{{ t('Undo') }}</button>
      <button class="textLink small" :disabled="!canRedo" data-test="redo" @click="redo">{{ t('Redo') }}</button>
    </p>
    <el-table :data="rows" row-key="number" :empty-text="t('Nothing matches')">
      <el-table-column type="expand" width="40">
        <template #header
          ><span class="unseen">{{ t('Lists') }}</span></template
        >
        <template #default="{ row }">
          <RecordLists
            :data="row.data"
            :fields="rest(row.data)"
            :record="row.number"
            :editable="editable"
            @typed="(path, text) => keep([to(row, path, text)])"
            @pasted="(list, line, across, text) => pasteLines(row, list, line, across, text)"
          />
        </template>
      </el-table-column>
      <el-table-column label="#" width="84" align="right"
        ><template #default="{ row }"
          ><button class="textLink" :aria-label="`${t('Record')} ${row.number}`" @click="emit('open', row)">
            {{ row.number }}
          </button></template
        ></el-table-column
      >
      <el-table-column
        v-for="(path, column) in columns"
        :key="path.join('.')"
        :label="path.join('.')"
        :min-width="column ? 105 : 140"
        ><template #header
          ><template v-for="(name, k) in path" :key="k"
            ><wbr v-if="k" />{{ k ? '.' : '' }}{{ name }}</template
          ></template
        ><template #default="{ row }"
          ><RecordCell
            :value="valueAt(row.data, path)"
            :label="`${path.join('.')} ${row.number}`"
            :editable="editable"
            @typed="(text) => keep([to(row, path, text)])"
            @pasted="(text) => paste(row, column, text)" /></template
      ></el-table-column>
      <el-table-column :label="t('Actions')" width="150" align="right"
        ><template #default="{ row }"
          ><el-tooltip v-if="row.fault" :content="row.fault"
            ><el-tag type="danger" size="small" effect="plain" data-test="fault">!</el-tag></el-tooltip
          >
          <button v-if="issues" class="textLink small" :title="t('Make its document')" @click="emit('make', row)">
            {{ t('Document') }} →
          </button></template
        ></el-table-column
      >
    </el-table>
  </div>
</template>

<style scoped>
/* the heads of a long list stay in sight, where it need not be moved sideways */
@media (min-width: 820px) {
  .grid :deep(.el-table),
  .grid :deep(.el-table__inner-wrapper) {
    overflow: visible;
  }
}
.grid :deep(.el-table__header .cell) {
  word-break: normal;
}
.grid :deep(.el-table__header-wrapper) {
  position: sticky;
  top: 0;
  z-index: 2;
}
.steps {
  display: flex;
  gap: 14px;
  margin: 0 0 4px;
}
.unseen {
  position: absolute;
  width: 1px;
  height: 1px;
  overflow: hidden;
  clip-path: inset(50%);
}
.steps :disabled {
  opacity: 0.45;
  cursor: default;
  text-decoration: none;
}
</style>
