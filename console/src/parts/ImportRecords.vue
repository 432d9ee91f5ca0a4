<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { service, type Imported } from '../api'
import { records, t } from '../i18n'
import { attempt } from '../attempt'

const props = defineProps<{ file?: File }>()
const emit = defineEmits<{ done: [Imported]; left: [] }>()
const look = ref<Imported>()
const names = ref<Record<string, string>>({})
const decimal = ref<'' | ',' | '.'>('')
const dates = ref('')
const busy = ref(false)

// rows that belong to the records, such as the lines of invoices, may stand in a file of their own
const lines = ref<File>()
const linesInput = ref<HTMLInputElement>()
const key = ref('')
const lineKey = ref('')
const into = ref('lines')
const joining = computed(() =>
  lines.value ? { key: key.value, 'line-key': lineKey.value.trim(), into: into.value.trim() } : {},
)

// or each row of the file is a line, and those of one key make a record
const isTable = computed(() => /\.(csv|tsv|tab|xlsx)$/i.test(props.file?.name ?? ''))
const inRows = ref(false)
const made = ref<Imported>() // what comes of the rows
const gathering = computed(() => ({
  'lines-in-rows': true,
  key: names.value[key.value] || key.value,
  into: into.value.trim(),
  fields: renames.value,
}))
/** The field that holds what is different in rows of one key; lines, where none is seen to be so. */
function own(): string {
  const rows = look.value?.preview ?? []
  const nested = Object.keys(rows[0] ?? {}).filter((k) => rows[0][k] !== null && typeof rows[0][k] === 'object')
  const differs = (field: string) =>
    rows.some(
      (row, i) =>
        i > 0 &&
        row[key.value] === rows[i - 1][key.value] &&
        JSON.stringify(row[field]) !== JSON.stringify(rows[i - 1][field]),
    )
  return nested.find(differs) ?? 'lines'
}
async function gather() {
  if (inRows.value) into.value = own()
  await tryRows()
}
async function tryRows() {
  made.value = undefined
  rowsFault.value = ''
  if (!inRows.value) return
  try {
    made.value = await service.previewRecords(props.file!, { ...conventions.value, ...gathering.value })
  } catch (e) {
    rowsFault.value = (e as Error).message
  }
}
const rowsFault = ref('') // why they make no records

async function chosen(e: Event) {
  const input = e.target as HTMLInputElement
  lines.value = input.files?.[0]
  input.value = ''
  await read() // what they are joined by may have to be said first
}

function withoutLines() {
  lines.value = undefined
  void read()
}

// conventions are those of text files; the other formats have types of their own
const isText = computed(() => /\.(csv|tsv|tab)$/i.test(props.file?.name ?? ''))
const conventions = computed(() =>
  isText.value ? { decimal: decimal.value || undefined, dates: dates.value.trim() } : {},
)

watch(
  () => props.file,
  async (file) => {
    if (!file) return // what was read stays in the dialog while that goes
    look.value = lines.value = made.value = undefined
    inRows.value = false
    key.value = lineKey.value = ''
    into.value = 'lines'
    decimal.value = dates.value = ''
    const found = await read()
    if (!found) return emit('left')
    const fields = Object.keys(found.preview?.[0] ?? {})
    names.value = Object.fromEntries(fields.map((k) => [k, k]))
    key.value = fields.find((k) => /^(number|nummer|no|nr|id)$/i.test(k)) ?? fields[0] ?? ''
  },
)

// read reads the file anew by the conventions given; what was read before stays when they are wrong.
async function read() {
  const found = await attempt(() =>
    service.previewRecords(props.file!, { ...conventions.value, ...joining.value }, lines.value),
  )
  if (found) look.value = found
  await tryRows()
  return found
}

const firstLines = computed(() => {
  const list = (made.value ?? look.value)?.preview?.[0]?.[into.value]
  return Array.isArray(list) ? list.length : 0
})
const sample = (field: string) =>
  (look.value?.preview ?? [])
    .slice(0, 3)
    .map((r) => (typeof r[field] === 'object' ? JSON.stringify(r[field]) : String(r[field] ?? '')))
    .join(' · ')
    .slice(0, 90)
/** Other names for fields, as the service wants them. */
const renames = computed(() => {
  const changes = Object.entries(names.value).filter(([from, to]) => from !== to)
  return changes.length ? JSON.stringify(Object.fromEntries(changes)) : ''
})

async function keep() {
  busy.value = true
  const out = await attempt(
    () =>
      service.importRecords(
        props.file!,
        { ...conventions.value, ...joining.value, fields: renames.value, ...(inRows.value ? gathering.value : {}) },
        lines.value,
      ),
    t('Kept'),
  )
  busy.value = false
  if (out) emit('done', out)
}
</script>

<template>
  <el-dialog
    :model-value="!!file && !!look"
    :title="t('Import {0}', file?.name)"
    width="min(860px, 94vw)"
    @close="emit('left')"
  >
    <p v-if="look">
      {{ records((made ?? look).count) }}<span v-for="n in look.notes" :key="n" class="soft"> · {{ n }}</span>
    </p>
    <el-alert
      v-if="look?.bad.length"
      type="warning"
      :closable="false"
      show-icon
      :title="t('{0} rows cannot be read and are left out', look.bad.length)"
      ><ul>
        <li v-for="b in look.bad.slice(0, 8)" :key="b">{{ b }}</li>
      </ul></el-alert
    >
    <div v-if="isText" class="conventions">
      <label for="import-decimal">{{ t('Decimal sign') }}</label>
      <el-select id="import-decimal" v-model="decimal" :empty-values="[undefined, null]" @change="read">
        <el-option value="" :label="t('found out by column')" />
        <el-option value="," :label="t('comma: 1.234,50')" />
        <el-option value="." :label="t('point: 1,234.50')" />
      </el-select>
      <label for="import-dates">{{ t('Notation of dates') }}</label>
      <el-input id="import-dates" v-model="dates" :placeholder="t('found out, or such as DD.MM.YYYY')" @change="read" />
    </div>
    <div class="conventions joining">
      <el-checkbox v-if="isTable && !lines" v-model="inRows" data-test="in-rows" @change="gather">{{
        t('Several rows make one record')
      }}</el-checkbox>
      <el-button v-if="!inRows" size="small" data-test="lines" @click="linesInput?.click()">{{
        lines ? t('Another file of lines …') : t('Add lines from another file …')
      }}</el-button>
      <input
        ref="linesInput"
        type="file"
        class="hidden"
        :aria-label="t('Add lines from another file …')"
        accept=".json,.ndjson,.jsonl,.csv,.tsv,.tab,.yaml,.yml,.xml,.xlsx"
        @change="chosen"
      />
      <template v-if="inRows">
        <label for="import-key">{{ t('with the same') }}</label>
        <el-select id="import-key" v-model="key" @change="tryRows"
          ><el-option v-for="k in Object.keys(names)" :key="k" :value="k" :label="k"
        /></el-select>
        <label for="import-into">{{ t('Name of the list') }}</label>
        <el-input id="import-into" v-model="into" @change="tryRows" />
      </template>
      <template v-if="lines">
        <b>{{ lines.name }}</b>
        <el-button size="small" text @click="withoutLines">{{ t('Leave out') }}</el-button>
        <span class="break" />
        <label for="import-key">{{ t('Joined by') }}</label>
        <el-select id="import-key" v-model="key" @change="read"
          ><el-option v-for="k in Object.keys(names)" :key="k" :value="k" :label="k"
        /></el-select>
        <label for="import-line-key">{{ t('In the lines') }}</label>
        <el-input id="import-line-key" v-model="lineKey" :placeholder="t('the same name')" @change="read" />
        <label for="import-into">{{ t('Name of the list') }}</label>
        <el-input id="import-into" v-model="into" @change="read" />
      </template>
    </div>
    <el-alert v-if="rowsFault" type="error" :closable="false" show-icon :title="t(rowsFault)" />
    <p v-if="inRows" class="soft small">
      {{ t('What a row has of its own is called {0} and so on: give columns such names below.', `${into}.text`) }}
    </p>
    <p v-if="lines || made" class="soft small">{{ t('First record: {0} lines', firstLines) }}</p>
    <el-table :data="Object.keys(names)" max-height="380">
      <el-table-column :label="t('Field in the file')" min-width="160"
        ><template #default="{ row }">{{ row }}</template></el-table-column
      >
      <el-table-column :label="t('Name in the records')" width="220"
        ><template #default="{ row }"
          ><el-input v-model="names[row]" size="small" :aria-label="row" @change="tryRows" /></template
      ></el-table-column>
      <el-table-column :label="t('First values')" min-width="260" show-overflow-tooltip
        ><template #default="{ row }"
          ><span class="soft">{{ sample(row) }}</span></template
        ></el-table-column
      >
    </el-table>
    <p class="soft small">{{ t('Leave a name empty to leave the field out.') }}</p>
    <template #footer
      ><el-button @click="emit('left')">{{ t('Cancel') }}</el-button
      ><el-button type="primary" :disabled="inRows && !made" :loading="busy" data-test="import" @click="keep">{{
        t('Import these records')
      }}</el-button></template
    >
  </el-dialog>
</template>

<style scoped>
.conventions {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 12px;
  margin-bottom: 12px;
}
.conventions .el-select {
  width: 190px;
}
.conventions .el-input {
  width: 300px;
}
.joining .el-select,
.joining .el-input {
  width: 150px;
}
.break {
  flex-basis: 100%;
}
.hidden {
  display: none;
}
</style>
