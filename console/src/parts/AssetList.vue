<script setup lang="ts">
import { computed, ref } from 'vue'
import type { FileBody, Files } from '../api'
import { kilobytes } from '../format'
import { t } from '../i18n'
import { fileBody } from './templatefiles'

const props = defineProps<{ files: Files }>()
const emit = defineEmits<{ put: [string, FileBody]; remove: [string] }>()
const adding = ref<HTMLInputElement>()
const assets = computed(() =>
  Object.keys(props.files)
    .filter((f) => props.files[f].base64 !== undefined)
    .sort(),
)
const size = (f: FileBody) => kilobytes((f.base64?.length ?? 0) * 0.75)

async function add() {
  const input = adding.value!
  for (const f of input.files ?? []) emit('put', f.name, await fileBody(f))
  input.value = ''
}
</script>

<template>
  <div class="assets">
    <p>
      <input ref="adding" type="file" multiple hidden @change="add" />
      <el-button size="small" @click="adding!.click()">{{ t('Add') }}</el-button>
      <span class="soft small what">{{ t('Pictures and fonts, which the page names by their files.') }}</span>
    </p>
    <div v-for="f in assets" :key="f" class="asset">
      <span class="mono">{{ f }}</span>
      <span class="soft small">{{ size(files[f]) }}</span>
      <span class="grow" />
      <button class="textLink small" @click="emit('remove', f)">{{ t('Delete') }}</button>
    </div>
  </div>
</template>

<style scoped>
.assets {
  padding: 10px 18px;
  overflow: auto;
}
.what {
  margin-left: 12px;
}
.asset {
  display: flex;
  gap: 12px;
  padding: 8px 0;
  border-top: 1px solid var(--line);
  align-items: center;
}
</style>
