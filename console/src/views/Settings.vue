<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { service, type Font, type Key, type Person, type PersonInput, type Series, type Setup } from '../api'
import { when } from '../format'
import { useSession } from '../stores/session'
import { t } from '../i18n'
import { attempt } from '../attempt'
import { useList } from '../composables/useList'

const session = useSession()
const tab = ref(session.may('keep') ? 'people' : 'series')
const people = ref<Person[]>([])
const keys = ref<Key[]>([])
const series = ref<Series[]>([])
const person = ref({ email: '', name: '', role: 'sender' as Person['role'], password: '' })
const key = ref({ name: '', scopes: ['read'], days: 0, templates: [] as string[] })
const templates = ref<string[]>([])
const number = ref({ name: '', pattern: 'INV-{year}-{number:4}', next: 1, approval: false })
const fonts = ref<Font[]>([])
const fontFile = ref<HTMLInputElement>()
const setup = ref<Setup>()
const secret = ref('')
const {
  rows: events,
  total,
  page,
  size,
} = useList(
  (offset, limit) =>
    session.may('keep') ? service.events({ offset, limit }) : Promise.resolve({ items: [], total: 0 }),
  [tab],
  15,
) // read anew when its tab opens
const roles: Person['role'][] = ['keeper', 'maker', 'sender', 'reader']
const scopes = ['read', 'render', 'design', 'records', 'issue', 'approve', 'send', 'keep']

async function read() {
  series.value = (await attempt(() => service.series()))?.items ?? []
  fonts.value = (await attempt(() => service.fonts()))?.items ?? []
  setup.value = await attempt(() => service.setup())
  if (!session.may('keep')) return
  people.value = (await attempt(() => service.people()))?.items ?? []
  keys.value = (await attempt(() => service.keys()))?.items ?? []
  templates.value = (await attempt(() => service.templates()))?.items.map((x) => x.name) ?? []
}

async function addPerson() {
  if (await attempt(() => service.addPerson(person.value), t('Kept'))) {
    person.value = { email: '', name: '', role: 'sender', password: '' }
    read()
  }
}
async function setPerson(p: Person, body: PersonInput) {
  await attempt(() => service.setPerson(p.id, body), t('Kept'))
  read()
}
async function addKey() {
  const out = await attempt(() => service.addKey(key.value))
  if (out) {
    secret.value = out.key!
    key.value.name = ''
    read()
  }
}
async function revoke(k: Key) {
  await attempt(() => service.revokeKey(k.id))
  read()
}
async function addSeries() {
  if (await attempt(() => service.addSeries(number.value), t('Kept'))) {
    number.value.name = ''
    read()
  }
}
async function setSeries(x: Series, approval: boolean) {
  await attempt(() => service.setSeries(x.id, { approval }), t('Kept'))
  read()
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
  <div class="view">
    <div class="head">
      <div class="grow">
        <h1>{{ t('Settings') }}</h1>
        <p>{{ t('People, keys, numbers, fonts, and who did what.') }}</p>
      </div>
    </div>
    <el-alert
      v-if="!session.may('keep')"
      type="info"
      :closable="false"
      :title="t('You may look, but not change this.')"
      show-icon
    />
    <el-tabs v-model="tab">
      <el-tab-pane v-if="session.may('keep')" :label="t('People')" name="people">
        <section class="card list">
          <el-table :data="people">
            <el-table-column :label="t('Name')" min-width="160"
              ><template #default="{ row }">{{ row.name }}</template></el-table-column
            >
            <el-table-column :label="t('Email')" min-width="220"
              ><template #default="{ row }">{{ row.email }}</template></el-table-column
            >
            <el-table-column :label="t('Role')" width="170"
              ><template #default="{ row }"
                ><el-select
                  :model-value="row.role"
                  size="small"
                  :aria-label="t('Role')"
                  @change="(v: Person['role']) => setPerson(row, { role: v })"
                  ><el-option v-for="r in roles" :key="r" :value="r" :label="r" /></el-select></template
            ></el-table-column>
            <el-table-column :label="t('May log in')" width="130"
              ><template #default="{ row }"
                ><el-switch
                  :model-value="!row.disabled"
                  :aria-label="t('May log in')"
                  @change="(v: string | number | boolean) => setPerson(row, { disabled: !v })" /></template
            ></el-table-column>
          </el-table>
        </section>
        <form class="card line" @submit.prevent="addPerson">
          <el-input v-model="person.name" :placeholder="t('Name')" :aria-label="t('Name')" /><el-input
            v-model="person.email"
            type="email"
            :placeholder="t('Email')"
            :aria-label="t('Email')"
          />
          <el-select v-model="person.role" :aria-label="t('Role')"
            ><el-option v-for="r in roles" :key="r" :value="r" :label="r"
          /></el-select>
          <el-input
            v-model="person.password"
            type="password"
            show-password
            :placeholder="t('At least 10 characters')"
            :aria-label="t('Password')"
            autocomplete="new-password"
          />
          <el-button native-type="submit" type="primary">{{ t('Add a person') }}</el-button>
        </form>
      </el-tab-pane>
      <el-tab-pane v-if="session.may('keep')" :label="t('Keys')" name="keys">
        <el-alert
          v-if="secret"
          type="success"
          :title="t('Copy the key now: it is shown only once.')"
          @close="secret = ''"
          ><span class="mono">{{ secret }}</span></el-alert
        >
        <section class="card list">
          <el-table :data="keys">
            <el-table-column :label="t('Name')" min-width="150"
              ><template #default="{ row }">{{ row.name }}</template></el-table-column
            >
            <el-table-column :label="t('Scopes')" min-width="260"
              ><template #default="{ row }"
                ><span class="small">{{ row.scopes }}</span></template
              ></el-table-column
            >
            <el-table-column :label="t('Templates')" min-width="150"
              ><template #default="{ row }"
                ><span class="small">{{ row.templates?.replaceAll(' ', ', ') || t('all') }}</span></template
              ></el-table-column
            >
            <el-table-column :label="t('Until')" width="180"
              ><template #default="{ row }">{{
                row.expires ? when(row.expires) : t('never')
              }}</template></el-table-column
            >
            <el-table-column label="" width="130" align="right"
              ><template #default="{ row }"
                ><span v-if="row.revoked" class="soft">{{ t('revoked') }}</span
                ><button v-else class="textLink" @click="revoke(row)">{{ t('Revoke') }}</button></template
              ></el-table-column
            >
          </el-table>
        </section>
        <form class="card line" @submit.prevent="addKey">
          <el-input v-model="key.name" :placeholder="t('Name')" :aria-label="t('Name')" />
          <el-select v-model="key.scopes" multiple collapse-tags collapse-tags-tooltip :aria-label="t('Scopes')"
            ><el-option v-for="s in scopes" :key="s" :value="s" :label="s"
          /></el-select>
          <el-select
            v-model="key.templates"
            multiple
            collapse-tags
            collapse-tags-tooltip
            clearable
            :placeholder="t('All templates')"
            :aria-label="t('Templates')"
            ><el-option v-for="n in templates" :key="n" :value="n" :label="n"
          /></el-select>
          <el-input-number
            v-model="key.days"
            :min="0"
            :aria-label="t('Days until it ends; 0 for never')"
            :title="t('Days until it ends; 0 for never')"
          />
          <el-button native-type="submit" type="primary">{{ t('Make a key') }}</el-button>
        </form>
      </el-tab-pane>
      <el-tab-pane :label="t('Number series')" name="series">
        <section class="card list">
          <el-table :data="series">
            <el-table-column :label="t('Name')" min-width="180"
              ><template #default="{ row }">{{ row.name }}</template></el-table-column
            >
            <el-table-column :label="t('Pattern')" min-width="220"
              ><template #default="{ row }"
                ><span class="mono">{{ row.pattern }}</span></template
              ></el-table-column
            >
            <el-table-column :label="t('Next number')" width="150" align="right"
              ><template #default="{ row }">{{ row.next }}</template></el-table-column
            >
            <el-table-column :label="t('To be approved')" width="180" align="center"
              ><template #default="{ row }"
                ><el-switch
                  :model-value="row.approval"
                  :disabled="!session.may('keep')"
                  :aria-label="t('To be approved')"
                  @change="(v: string | number | boolean) => setSeries(row, !!v)" /></template
            ></el-table-column>
          </el-table>
        </section>
        <form v-if="session.may('keep')" class="card line" @submit.prevent="addSeries">
          <el-input v-model="number.name" :placeholder="t('Name')" :aria-label="t('Name')" /><el-input
            v-model="number.pattern"
            :placeholder="t('Pattern')"
            :aria-label="t('Pattern')"
          /><el-input-number v-model="number.next" :min="1" :aria-label="t('Next number')" />
          <el-checkbox v-model="number.approval" :label="t('Someone else approves')" />
          <el-button native-type="submit" type="primary">{{ t('Add a series') }}</el-button>
        </form>
      </el-tab-pane>
      <el-tab-pane :label="t('Fonts')" name="fonts">
        <section class="card list">
          <el-table
            :data="fonts"
            :empty-text="t('No fonts yet. A font added here can be named by its family in every template.')"
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
              ><template #default="{ row }">{{ Math.ceil(row.bytes / 1024) }} KB</template></el-table-column
            >
            <el-table-column label="" width="130" align="right"
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
      </el-tab-pane>
      <el-tab-pane :label="t('Delivery')" name="delivery">
        <section v-if="setup" class="card facts">
          <dl>
            <dt>{{ t('Public address') }}</dt>
            <dd class="mono">{{ setup.public }}</dd>
            <dt>{{ t('Ways of delivery') }}</dt>
            <dd>
              <el-tag v-for="w in setup.ways" :key="w" effect="plain">{{ w }}</el-tag><span
                v-if="!setup.ways.length"
                class="soft"
                >{{ t('No way of delivery is set up; see olive serve --help.') }}</span
              >
            </dd>
            <dt>{{ t('Hosts that may be sent to') }}</dt>
            <dd>
              <span v-for="h in setup.hosts" :key="h" class="mono">{{ h }} </span><span
                v-if="!setup.hosts.length"
                class="soft"
                >{{ t('none') }}</span
              >
            </dd>
            <dt>{{ t('Limits of a document') }}</dt>
            <dd>{{ t('{0} pages', setup.maxPages) }}, {{ setup.seconds }} s</dd>
            <dt>{{ t('Limit of a request') }}</dt>
            <dd>{{ Math.round(setup.maxBody / 1048576) }} MiB</dd>
            <dt>{{ t('Renderings at once') }}</dt>
            <dd>{{ setup.atOnce }}</dd>
          </dl>
          <p class="soft small">
            {{ t('These are set where the service is started: by options, the environment or a file.') }}
          </p>
        </section>
      </el-tab-pane>
      <el-tab-pane v-if="session.may('keep')" :label="t('Events')" name="events">
        <section class="card list">
          <el-table :data="events">
            <el-table-column :label="t('When')" width="176" class-name="when"
              ><template #default="{ row }">{{ when(row.at) }}</template></el-table-column
            >
            <el-table-column :label="t('Who')" min-width="180"
              ><template #default="{ row }">{{ row.who }}</template></el-table-column
            >
            <el-table-column :label="t('What')" min-width="170"
              ><template #default="{ row }">{{ row.action }}</template></el-table-column
            >
            <el-table-column :label="t('Of')" min-width="150"
              ><template #default="{ row }">{{ row.kind }} {{ row.ref }}</template></el-table-column
            >
            <el-table-column :label="t('Detail')" min-width="220" show-overflow-tooltip
              ><template #default="{ row }">{{ row.detail }}</template></el-table-column
            >
          </el-table>
          <el-pagination
            v-model:current-page="page"
            layout="prev, pager, next, total"
            :page-size="size"
            :total="total"
          />
        </section>
      </el-tab-pane>
    </el-tabs>
  </div>
</template>

<style scoped>
.line {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 10px;
  padding: 14px;
  margin-top: 14px;
}
.line > * {
  flex: 1 1 170px;
}
.line .el-button {
  flex: 0 0 auto;
}
.facts {
  padding: 18px 22px;
}
.facts dl {
  display: grid;
  grid-template-columns: 240px 1fr;
  gap: 10px 20px;
  margin: 0 0 14px;
}
.facts dt {
  color: var(--ink-soft);
}
.facts dd {
  margin: 0;
  display: flex;
  gap: 8px;
  flex-wrap: wrap;
}
.el-alert {
  margin-bottom: 14px;
}
</style>
