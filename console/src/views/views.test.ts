import { flushPromises, mount } from '@vue/test-utils'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { Component } from 'vue'
import { createMemoryHistory, createRouter } from 'vue-router'
import { useSession } from '../stores/session'
import { answering, problem } from '../testing/service'
import Batches from './Batches.vue'
import Documents from './Documents.vue'
import Ledger from './Ledger.vue'
import Records from './Records.vue'
import Settings from './Settings.vue'
import Start from './Start.vue'
import Templates from './Templates.vue'

// what draws pages needs a browser
vi.mock('../parts/pdf', () => ({ loadPages: vi.fn(), drawPage: vi.fn(), pageSize: vi.fn(), textAt: vi.fn() }))

const now = '2026-05-31T09:30:00Z'
const empty = { items: [], total: 0 }
const overview = {
  waiting: 0,
  approved: 0,
  failedDeliveries: 0,
  failed: [],
  batches: [],
  drafts: [],
  days: [],
  recent: [],
  templates: 0,
  recordSets: 0,
}
const template = { name: 'card', title: 'Berth card', latest: 2, updated: now }
const batch = {
  id: 7,
  template: 'card',
  version: 2,
  recordSet: 1,
  drafts: false,
  state: 'running',
  priority: 0,
  total: 8,
  done: 3,
  failed: 1,
  author: 'keeper',
  revision: 1,
  created: now,
}
const document = {
  id: 5,
  name: 'card-5.pdf',
  title: 'A card',
  number: 'C-005',
  state: 'issued',
  template: 'card',
  version: 2,
  record: 1,
  pages: 2,
  bytes: 4096,
  sha256: 'ab',
  author: 'keeper',
  revision: 1,
  created: now,
}
const entry = {
  id: 1,
  kind: 'issued',
  document: 5,
  number: 'C-005',
  name: 'card-5.pdf',
  pages: 2,
  who: 'keeper',
  at: now,
  checksum: 'ab',
  previous: '',
}
const set = { id: 1, name: 'berths.csv', count: 3, author: 'keeper', created: now }
const record = { number: 1, label: 'Maren', revision: 1, data: { name: 'Maren', berth: 'D4' } }
const series = { id: 1, name: 'cards', pattern: 'C-{number}', next: 6, approval: false, revision: 1 }
const hook = {
  id: 4,
  address: 'https://books.test/in',
  events: ['document.issued', 'batch.ended'],
  paused: false,
  revision: 1,
  created: now,
}
const setup = { public: '', ways: [], hosts: [], maxPages: 100, seconds: 5, maxBody: 1, atOnce: 2 }

/** A view, where its data comes from, what it says when there is none, and when there is. */
const views: {
  name: string
  view: Component
  from: string
  none: object
  some: object
  others?: Record<string, object>
  says: { none: string; some: string[] }
}[] = [
  {
    name: 'Start',
    view: Start,
    from: 'GET /overview',
    none: overview,
    some: { ...overview, waiting: 2, recent: [document], batches: [batch], templates: 1 },
    says: { none: 'Make a template', some: ['2 documents wait to be approved', 'C-005'] },
  },
  {
    name: 'Templates',
    view: Templates,
    from: 'GET /templates',
    none: empty,
    some: { items: [template], total: 1 },
    says: { none: 'No template yet', some: ['Berth card', 'version 2'] },
  },
  {
    name: 'Records',
    view: Records,
    from: 'GET /record-sets',
    none: empty,
    some: { items: [set], total: 1 },
    others: { 'GET /record-sets/1/records': { items: [record], total: 1 }, 'GET /templates': empty },
    says: { none: 'No records yet', some: ['berths.csv', 'Maren', 'D4'] },
  },
  {
    name: 'Batches',
    view: Batches,
    from: 'GET /batches',
    none: empty,
    some: { items: [batch], total: 1 },
    others: { 'GET /templates': empty, 'GET /record-sets': empty, 'GET /number-series': empty },
    says: { none: 'No batch yet', some: ['card', 'running'] },
  },
  {
    name: 'Documents',
    view: Documents,
    from: 'GET /documents',
    none: empty,
    some: { items: [document], total: 1 },
    others: { 'GET /templates': empty },
    says: { none: 'No documents yet', some: ['card-5.pdf', 'C-005', 'issued', '4 KB'] },
  },
  {
    name: 'Ledger',
    view: Ledger,
    from: 'GET /ledger',
    none: empty,
    some: { items: [entry], total: 1 },
    says: { none: 'Nothing has been issued yet', some: ['card-5.pdf', 'C-005', 'keeper'] },
  },
]

async function open(view: Component) {
  const router = createRouter({
    history: createMemoryHistory(),
    routes: [{ path: '/:rest(.*)*', component: { template: '<i />' } }],
  })
  await router.push('/')
  const w = mount(view, { global: { plugins: [router] }, attachTo: window.document.body })
  await flushPromises()
  return w
}

beforeEach(() => {
  window.document.body.innerHTML = ''
  const scopes = ['read', 'render', 'design', 'records', 'issue', 'approve', 'send', 'keep']
  useSession().person = { email: 'a@b', name: 'Ada', scopes }
})

describe.each(views)('$name', ({ view, from, none, some, others, says }) => {
  it('waits for the service', async () => {
    answering({ ...others, [from]: () => new Promise<object>(() => {}) })
    const text = (await open(view)).text()
    for (const said of [says.none, ...says.some]) expect(text).not.toContain(said)
  })
  it('tells why there is nothing to see', async () => {
    answering({ ...others, [from]: problem(503, 'the database does not answer') })
    const w = await open(view)
    expect(w.text()).toContain('the database does not answer')
    expect(w.text()).not.toContain(says.none)
  })
  it('teaches what to do while it is empty', async () => {
    answering({ ...others, [from]: none })
    expect((await open(view)).text()).toContain(says.none)
  })
  it('shows what is there', async () => {
    answering({ ...others, [from]: some })
    const w = await open(view)
    await vi.waitFor(() => {
      for (const said of says.some) expect(w.text()).toContain(said)
    })
    expect(w.text()).not.toContain(says.none)
  })
})

describe('Settings', () => {
  const all = {
    'GET /people': {
      items: [
        { id: 1, email: 'ada@quay.test', name: 'Ada', role: 'keeper', disabled: false, revision: 1, created: now },
      ],
      total: 1,
    },
    'GET /number-series': { items: [series], total: 1 },
    'GET /fonts': empty,
    'GET /setup': setup,
    'GET /keys': empty,
    'GET /templates': empty,
    'GET /events': empty,
    'GET /hooks': { items: [hook], total: 1 },
  }
  it('shows people to a keeper, and the rest tab by tab', async () => {
    const asked = answering(all)
    const w = await open(Settings)
    expect(w.text()).toContain('ada@quay.test')
    for (const [tab, path, says] of [
      ['keys', '/keys', 'Make a key'],
      ['series', '/number-series', 'C-{number}'],
      ['fonts', '/fonts', 'No fonts yet'],
      ['delivery', '/setup', 'No way of delivery is set up'],
      ['hooks', '/hooks', 'Document issued, Batch ended'],
      ['events', '/events', 'Detail'],
    ]) {
      expect(asked.map((a) => a.path.split('?')[0])).not.toContain(path)
      await w.find(`#tab-${tab}`).trigger('click')
      await flushPromises()
      expect(w.text()).toContain(says)
    }
  })
  it('asks for nothing that others may not see', async () => {
    useSession().person = { email: 'r@b', name: 'Reader', scopes: ['read'] }
    const asked = answering(all)
    const w = await open(Settings)
    expect(asked.map((a) => a.path.split('?')[0])).not.toContain('/people')
    expect(w.text()).toContain('You may look, but not change this.')
  })
})

describe('documents', () => {
  it('tell when their delivery has failed or is on its way', async () => {
    const row = (id: number, delivery?: string) => ({ ...document, id, name: `card-${id}.pdf`, delivery })
    answering({
      'GET /documents': { items: [row(1, 'failed'), row(2, 'waiting'), row(3, 'done'), row(4)], total: 4 },
      'GET /templates': empty,
    })
    const w = await open(Documents)
    await flushPromises()
    expect(w.findAll('[data-test=delivery]').map((e) => e.text())).toEqual(['delivery failed', 'on its way'])
    expect(w.find('[data-test=delivery]').classes()).toContain('bad')
  })
})
