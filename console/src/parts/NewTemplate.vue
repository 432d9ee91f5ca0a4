<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { ElMessage } from 'element-plus'
import { service, type FileBody, type Starter, type TemplateRow } from '../api'
import { t } from '../i18n'
import { attempt } from '../attempt'
import { emptyTemplate, filesOfFolder, nameFrom, nameOfAddress, templateOf, titleOf } from './templatefiles'
import PageThumb from './PageThumb.vue'

const props = defineProps<{ taken: TemplateRow[] }>()
const open = defineModel<boolean>({ required: true })
const router = useRouter()

const starters = ref<Starter[]>([])
const from = ref('invoice') // a starter, or empty, paste, web, copy, folder or zip
const name = ref('')
const copied = ref('')
const folder = ref<File[]>([])
const zip = ref<File>()
const pasted = ref('')
const address = ref('')
const busy = ref(false)

watch(open, async (now) => {
  if (!now) return
  name.value = ''
  if (!starters.value.length) starters.value = (await attempt(() => service.starters()))?.items ?? []
})

const others = [
  { name: 'empty', label: 'An empty page' },
  { name: 'paste', label: 'A page that I paste' },
  { name: 'web', label: 'A page of the web' },
  { name: 'copy', label: 'A copy of another template' },
  { name: 'folder', label: 'A folder from this computer' },
  { name: 'zip', label: 'A ZIP file from this computer' },
]
const starter = computed(() => starters.value.find((x) => x.name === from.value))
const suggested = computed(() => {
  const base = {
    copy: copied.value && `${copied.value}-2`,
    folder: folder.value[0]?.webkitRelativePath.split('/')[0],
    paste: titleOf(pasted.value),
    web: nameOfAddress(address.value),
  }[from.value]
  return nameFrom(starter.value?.name ?? base ?? zip.value?.name.replace(/\.zip$/i, '') ?? '')
})
const chosen = computed(() => name.value || suggested.value)
const fault = computed(() => {
  if (chosen.value && !/^[a-z0-9][a-z0-9-]{0,99}$/.test(chosen.value)) return t('small letters, digits and hyphens')
  if (props.taken.some((x) => x.name === chosen.value)) return t('There is a template of this name already.')
  return ''
})
const ready = computed(
  () =>
    chosen.value &&
    !fault.value &&
    (starter.value ||
      from.value === 'empty' ||
      (from.value === 'copy' && copied.value) ||
      (from.value === 'paste' && pasted.value.trim()) ||
      (from.value === 'web' && nameOfAddress(address.value)) ||
      (from.value === 'folder' && folder.value.length) ||
      (from.value === 'zip' && zip.value)),
)

async function files(): Promise<Record<string, FileBody>> {
  if (starter.value) return (await service.starter(from.value)).files!
  if (from.value === 'copy') {
    const row = props.taken.find((x) => x.name === copied.value)!
    return (row.latest ? await service.template(row.name) : await service.draft(row.name)).files
  }
  if (from.value === 'paste') return templateOf(titleOf(pasted.value), { 'page.html': { text: pasted.value } })
  if (from.value === 'web') {
    const page = await service.copyPage(address.value.trim())
    if (page.notes.length) ElMessage({ message: page.notes.join('\n'), type: 'warning', duration: 0, showClose: true })
    return templateOf(page.title, page.files)
  }
  return from.value === 'folder' ? filesOfFolder(folder.value) : emptyTemplate
}

async function add() {
  busy.value = true
  const made = await attempt(async () =>
    from.value === 'zip'
      ? service.draftOfZip(chosen.value, zip.value!)
      : service.saveDraft(chosen.value, await files(), 0),
  )
  busy.value = false
  if (!made) return
  open.value = false
  router.push(`/templates/${chosen.value}`)
}

async function look(starter: string) {
  return (await service.render({ files: (await service.starter(starter)).files })).pdf
}
const picked = (e: Event) => [...((e.target as HTMLInputElement).files ?? [])]
</script>

<template>
  <el-dialog v-model="open" :title="t('New template')" width="860" class="form" top="6vh">
    <fieldset>
      <legend>{{ t('Begin with') }}</legend>
      <div class="starters">
        <label v-for="s in starters" :key="s.name" :class="{ on: from === s.name }" :data-test="`from-${s.name}`">
          <input v-model="from" type="radio" name="from" :value="s.name" />
          <PageThumb
            v-if="open"
            class="small"
            :pdf="() => look(s.name)"
            :none="t('No preview: the sample record does not merge')"
          />
          <b>{{ t(s.name) }}</b>
          <span>{{ t(s.what) }}</span>
        </label>
      </div>
      <div class="others">
        <label v-for="o in others" :key="o.name" :class="{ on: from === o.name }" :data-test="`from-${o.name}`">
          <input v-model="from" type="radio" name="from" :value="o.name" /> {{ t(o.label) }}
        </label>
      </div>
    </fieldset>
    <div v-if="from === 'copy'">
      <label for="new-copied">{{ t('Template') }}</label>
      <el-select id="new-copied" v-model="copied" size="large">
        <el-option v-for="x in taken" :key="x.name" :value="x.name" :label="x.title" />
      </el-select>
    </div>
    <div v-if="from === 'paste'">
      <label for="new-pasted">{{ t('The page in HTML') }}</label>
      <el-input
        id="new-pasted"
        v-model="pasted"
        type="textarea"
        class="mono"
        :rows="7"
        placeholder="<!DOCTYPE html>"
        data-test="new-pasted"
      />
    </div>
    <div v-if="from === 'web'">
      <label for="new-address">{{ t('Address') }}</label>
      <el-input
        id="new-address"
        v-model="address"
        size="large"
        placeholder="https://harbour.example/invoice.html"
        data-test="new-address"
      />
      <p class="hint">
        {{ t('The page comes with its style sheets, pictures and fonts, from hosts that --page-host names.') }}
      </p>
    </div>
    <div v-if="from === 'folder'">
      <label for="new-folder">{{ t('Folder') }}</label>
      <input id="new-folder" type="file" webkitdirectory @change="folder = picked($event)" />
      <p class="hint">{{ t('with a page in HTML, and template.yaml if there is one') }}</p>
    </div>
    <div v-if="from === 'zip'">
      <label for="new-zip">{{ t('ZIP file') }}</label>
      <input id="new-zip" type="file" accept=".zip,application/zip" @change="zip = picked($event)[0]" />
    </div>
    <label for="new-name">{{ t('Name') }}</label>
    <el-input
      id="new-name"
      v-model="name"
      size="large"
      :placeholder="suggested"
      data-test="new-name"
      @keyup.enter="ready && add()"
    />
    <p class="hint" :class="{ bad: fault }" role="status">
      {{ fault || t('It stands in addresses and commands: small letters, digits and hyphens.') }}
    </p>
    <template #footer>
      <el-button @click="open = false">{{ t('Cancel') }}</el-button>
      <el-button type="primary" :disabled="!ready" :loading="busy" data-test="new-add" @click="add">
        {{ t('Open it') }}
      </el-button>
    </template>
  </el-dialog>
</template>

<style scoped>
fieldset {
  border: 0;
  padding: 0;
  margin: 0;
}
legend {
  font-weight: 600;
  font-size: 14px;
  padding: 0;
  margin-bottom: 8px;
}
.form .starters label,
.form .others label {
  margin: 0;
  font-weight: 400;
  cursor: pointer;
  border: 1px solid var(--line);
  border-radius: 8px;
}
.starters {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(146px, 1fr));
  gap: 12px;
}
.starters label {
  overflow: hidden;
  position: relative;
  padding-bottom: 10px;
}
.starters input {
  position: absolute;
  top: 8px;
  left: 8px;
  z-index: 1;
}
.starters b,
.starters span {
  display: block;
  padding: 8px 10px 0;
}
.starters b::first-letter {
  text-transform: uppercase;
}
.starters span {
  padding-top: 2px;
  font-size: 13px;
  line-height: 1.35;
  color: var(--ink-soft);
}
.starters .small {
  height: 140px;
  padding-top: 12px;
}
.others {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(190px, 1fr));
  gap: 8px;
  margin-top: 12px;
}
.others label {
  display: flex;
  align-items: baseline;
  gap: 8px;
  padding: 9px 10px;
  line-height: 1.35;
}
.others input {
  flex: none;
  margin: 0;
}
label.on {
  border-color: var(--olive) !important;
  background: var(--tint);
}
.bad {
  color: var(--bad) !important;
}
</style>
