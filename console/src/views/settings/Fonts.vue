<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { service, type Font } from '../../api'
import { attempt } from '../../attempt'
import { kilobytes } from '../../format'
import { t } from '../../i18n'
import { useSession } from '../../stores/session'

const session = useSession()
const fonts = ref<Font[]>()
const fontFile = ref<HTMLInputElement>()

async function read() {
  fonts.value = (await attempt(() => service.fonts()))?.items
}
async function addFonts(e: Event) {
  const input = e.target as HTMLInputElement
  for (const f of input.files ?? []) await attempt(() => service.addFont(f), t('Kept'))
  input.value = ''
  read()
}
async function withdraw(f: Font) {
  await attempt(() => service.withdrawFont(f.id), t('Withdrawn'))
  read()
}
const look = (f: Font) =>
  (f.leastBold === f.mostBold ? `${f.leastBold}` : `${f.leastBold}–${f.mostBold}`) + (f.italic ? ` ${t('italic')}` : '')
onMounted(read)
</script>

<template>
  <section class="card list">
    <el-table
      :data="fonts"
      :empty-text="fonts ? t('No fonts yet. A font added here can be named by its family in every template.') : '…'"
    >
      <el-table-column :label="t('Family')" min-width="180"
        ><template #default="{ row }">{{ row.family }}</template></el-table-column
      >
      <el-table-column :label="t('Look')" width="150"
        ><template #default="{ row }">{{ look(row) }}</template></el-table-column
      >
      <el-table-column :label="t('File')" min-width="220"
        ><template #default="{ row }"
          ><span class="mono">{{ row.file }}</span></template
        ></el-table-column
      >
      <el-table-column :label="t('Size')" width="110" align="right"
        ><template #default="{ row }">{{ kilobytes(row.bytes) }}</template></el-table-column
      >
      <el-table-column :label="t('Actions')" width="130" align="right"
        ><template #default="{ row }"
          ><button v-if="session.may('keep')" class="textLink" @click="withdraw(row)">
            {{ t('Withdraw') }}
          </button></template
        ></el-table-column
      >
    </el-table>
  </section>
  <div v-if="session.may('keep')" class="card line">
    <input
      ref="fontFile"
      type="file"
      multiple
      hidden
      accept=".ttf,.otf,.woff,.woff2"
      :aria-label="t('Font files')"
      @change="addFonts"
    />
    <p class="soft small">
      {{ t('TTF, OTF, WOFF or WOFF2. Documents that were issued with a font keep it when it is withdrawn.') }}
    </p>
    <el-button type="primary" @click="fontFile!.click()">{{ t('Add fonts') }}</el-button>
  </div>
</template>
