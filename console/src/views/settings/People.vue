<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { service, type Person, type PersonInput } from '../../api'
import { attempt } from '../../attempt'
import { t } from '../../i18n'

const people = ref<Person[]>()
const person = ref({ email: '', name: '', role: 'sender' as Person['role'], password: '' })
const roles: Person['role'][] = ['keeper', 'maker', 'sender', 'reader']

async function read() {
  people.value = (await attempt(() => service.people()))?.items
}
async function addPerson() {
  if (!(await attempt(() => service.addPerson(person.value), t('Kept')))) return
  person.value = { email: '', name: '', role: 'sender', password: '' }
  read()
}
async function setPerson(p: Person, body: PersonInput) {
  await attempt(() => service.setPerson(p.id, body), t('Kept'))
  read()
}
onMounted(read)
</script>

<template>
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
            ><el-option v-for="r in roles" :key="r" :value="r" :label="t(r)" /></el-select></template
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
      ><el-option v-for="r in roles" :key="r" :value="r" :label="t(r)"
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
</template>
