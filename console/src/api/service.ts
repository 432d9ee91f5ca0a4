import type { components, operations } from './schema'
import { asFile, client, got, ofRevision, once } from './client'
import type {
  BatchOrder,
  DeliveryInput,
  DocumentOrder,
  DocumentRow,
  Files,
  Hook,
  HookInput,
  List,
  Rendered,
  Rendering,
} from './types'

type Query<Operation extends keyof operations> = NonNullable<operations[Operation]['parameters']['query']>
type Body<Operation extends 'patchDocumentsId' | 'patchBatchesId' | 'postNumberSeries' | 'postPeople' | 'postKeys'> =
  operations[Operation]['requestBody']['content']['application/json']

const named = (name: string) => ({ path: { name } })
const numbered = (id: number) => ({ path: { id } })

/** How many rows the service gives in one answer. */
const mostAtOnce = 100

/** All rows of a list, which comes in several answers when it is long. */
async function all<T>(part: (paging: { offset: number; limit: number }) => Promise<List<T>>): Promise<List<T>> {
  const whole = await part({ offset: 0, limit: mostAtOnce })
  while (whole.items.length < whole.total) {
    const { items } = await part({ offset: whole.items.length, limit: mostAtOnce })
    if (!items.length) break
    whole.items.push(...items)
  }
  return whole
}

function bytes(base64: string): ArrayBuffer {
  return Uint8Array.from(atob(base64), (c) => c.charCodeAt(0)).buffer
}

/** A file of records, and one of the rows that belong to them if there is one, as the service takes them. */
function recordsBody(file: File, lines?: File): string {
  if (!lines) return file as unknown as string // binary is text to the description
  const form = new FormData()
  form.append('records', file)
  form.append('lines', lines)
  return form as unknown as string
}

const without = <T extends object>(query: T): T =>
  Object.fromEntries(Object.entries(query).filter(([, v]) => v !== undefined && v !== '' && v !== null)) as T

/** What the console asks the service for. */
export const service = {
  signInWay: () => got(client.GET('/sign-in/way')),
  sessions: () => got(client.GET('/sessions')),
  endSession: (name: string) => client.DELETE('/sessions/{name}', { params: named(name) }),
  changePassword: (before: string, next: string) => client.PUT('/password', { body: { old: before, new: next } }),

  overview: () => got(client.GET('/overview')),
  setup: () => got(client.GET('/setup')),
  events: (query: Query<'getEvents'>) => got(client.GET('/events', { params: { query: without(query) } })),

  starters: () => got(client.GET('/starters')),
  starter: (name: string) => got(client.GET('/starters/{name}', { params: named(name) })),
  templates: () => all((query) => got(client.GET('/templates', { params: { query } }))),
  template: (name: string) => got(client.GET('/templates/{name}', { params: named(name) })),
  templateOf: (name: string, number: number) =>
    got(client.GET('/templates/{name}/versions/{number}', { params: { path: { name, number } } })),
  versions: (name: string) =>
    all((query) => got(client.GET('/templates/{name}/versions', { params: { ...named(name), query } }))),
  difference: (name: string, number: number, other: number) =>
    got(
      client.GET('/templates/{name}/versions/{number}/difference/{other}', {
        params: { path: { name, number, other } },
      }),
    ),
  /** What is to be edited: the draft or, where there is none, the newest version. */
  edited: (name: string) =>
    got(client.GET('/templates/{name}/draft', { params: { ...named(name), query: { 'or-version': true } } })),
  draft: (name: string) => got(client.GET('/templates/{name}/draft', { params: named(name) })),
  saveDraft: (name: string, files: Files, revision: number) =>
    got(
      client.PUT('/templates/{name}/draft', {
        params: { ...named(name), header: ofRevision(revision) },
        body: { files },
      }),
    ),
  draftOfZip: (name: string, zip: Blob) =>
    got(
      client.PUT('/templates/{name}/draft', {
        params: named(name),
        ...asFile,
        body: new Blob([zip], { type: 'application/zip' }) as unknown as string,
      }),
    ),
  dropDraft: (name: string) => client.DELETE('/templates/{name}/draft', { params: named(name) }),
  publish: (name: string, files: Files, note: string) =>
    got(
      client.POST('/templates/{name}/versions', {
        params: { ...named(name), header: once() },
        body: { files, note },
      }),
    ),

  recordSets: () => all((query) => got(client.GET('/record-sets', { params: { query } }))),
  dropRecordSet: (id: number) => client.DELETE('/record-sets/{id}', { params: numbered(id) }),
  records: (id: number, query: Query<'getRecordSetsIdRecords'>) =>
    got(client.GET('/record-sets/{id}/records', { params: { ...numbered(id), query: without(query) } })),
  record: (id: number, number: number) =>
    got(client.GET('/record-sets/{id}/records/{number}', { params: { path: { id, number } } })),
  saveRecord: (id: number, number: number, data: unknown, revision: number) =>
    got(
      client.PUT('/record-sets/{id}/records/{number}', {
        params: { path: { id, number }, header: ofRevision(revision) },
        body: data as never,
      }),
    ),
  addRecord: (id: number, data: unknown) =>
    got(client.POST('/record-sets/{id}/records', { params: { ...numbered(id), header: once() }, body: data as never })),
  importRecords: (file: File, query: Query<'postRecordSets'>, lines?: File) =>
    got(
      client.POST('/record-sets', {
        params: { query: { name: file.name, 'skip-bad': true, ...without(query) } },
        ...asFile,
        body: recordsBody(file, lines),
      }),
    ),
  previewRecords: (file: File, query: Query<'postRecordPreviews'>, lines?: File) =>
    got(
      client.POST('/record-previews', {
        params: { query: { name: file.name, 'skip-bad': true, ...without(query) } },
        ...asFile,
        body: recordsBody(file, lines),
      }),
    ),

  copyPage: (address: string) => got(client.POST('/page-copies', { body: { address } })),

  async render(body: Rendering): Promise<Rendered> {
    const out = (await got(
      client.POST('/renderings', { body, headers: { Accept: 'application/json' } }),
    )) as components['schemas']['Rendered'] // it can be a PDF as well, which was not asked for
    return { ...out, pdf: bytes(out.pdf) }
  },

  batches: (query: Query<'getBatches'>) => got(client.GET('/batches', { params: { query: without(query) } })),
  batch: (id: number) => got(client.GET('/batches/{id}', { params: numbered(id) })),
  tryBatch: (body: BatchOrder) => got(client.POST('/batch-trials', { body })),
  startBatch: (body: BatchOrder) => got(client.POST('/batches', { params: { header: once() }, body })),
  setBatch: (id: number, state: Body<'patchBatchesId'>['state']) =>
    got(client.PATCH('/batches/{id}', { params: numbered(id), body: { state } })),
  retryBatch: (id: number) => got(client.POST('/batches/{id}/retry', { params: numbered(id) })),
  failedItems: (id: number) =>
    all((query) =>
      got(client.GET('/batches/{id}/items', { params: { ...numbered(id), query: { ...query, state: 'failed' } } })),
    ),

  documents: (query: Query<'getDocuments'>) => got(client.GET('/documents', { params: { query: without(query) } })),
  document: (id: number) => got(client.GET('/documents/{id}', { params: numbered(id) })),
  order: (body: DocumentOrder) => got(client.POST('/documents', { params: { header: once() }, body })),
  setDocument: (d: DocumentRow, state: Body<'patchDocumentsId'>['state'], reason = '') =>
    got(
      client.PATCH('/documents/{id}', {
        params: { ...numbered(d.id), header: ofRevision(d.revision) },
        body: { state, reason },
      }),
    ),
  hold: (d: DocumentRow, reason: string) => {
    const params = { ...numbered(d.id), header: ofRevision(d.revision) }
    return reason
      ? got(client.PUT('/documents/{id}/hold', { params, body: { reason } }))
      : got(client.DELETE('/documents/{id}/hold', { params }))
  },
  history: (id: number) =>
    all((query) => got(client.GET('/documents/{id}/history', { params: { ...numbered(id), query } }))),
  async pdf(id: number): Promise<ArrayBuffer> {
    const out = await got(client.GET('/documents/{id}/pdf', { params: numbered(id), parseAs: 'arrayBuffer' }))
    return out as unknown as ArrayBuffer // binary is text to the description
  },
  repeat: (id: number) => got(client.POST('/documents/{id}/repetition', { params: numbered(id) })),

  deliver: (body: DeliveryInput) => got(client.POST('/deliveries', { params: { header: once() }, body })),
  deliveries: (document: number) => got(client.GET('/deliveries', { params: { query: { document } } })),
  retryDelivery: (id: number) => got(client.POST('/deliveries/{id}/retry', { params: numbered(id) })),

  hooks: () => all((query) => got(client.GET('/hooks', { params: { query } }))),
  addHook: (body: HookInput) => got(client.POST('/hooks', { params: { header: once() }, body })),
  setHook: (h: Hook, body: HookInput) =>
    got(client.PATCH('/hooks/{id}', { params: { ...numbered(h.id), header: ofRevision(h.revision) }, body })),
  removeHook: (id: number) => client.DELETE('/hooks/{id}', { params: numbered(id) }),
  testHook: (id: number) => got(client.POST('/hooks/{id}/test', { params: numbered(id) })),
  told: (hook: number, paging: { offset: number; limit: number }) =>
    got(client.GET('/deliveries', { params: { query: { hook, ...paging } } })),

  share: (body: { document: number; days?: number; limit?: number; download?: boolean }) =>
    got(client.POST('/share-links', { params: { header: once() }, body })),
  shares: (document: number) => got(client.GET('/share-links', { params: { query: { document } } })),
  revokeShare: (id: number) => client.DELETE('/share-links/{id}', { params: numbered(id) }),

  ledger: (query: Query<'getLedger'>) => got(client.GET('/ledger', { params: { query: without(query) } })),
  verifyLedger: () => got(client.POST('/ledger/verification')),

  fonts: () => all((query) => got(client.GET('/fonts', { params: { query } }))),
  addFont: (file: File) =>
    got(
      client.POST('/fonts', {
        params: { query: { name: file.name } },
        ...asFile,
        body: file as unknown as string,
      }),
    ),
  withdrawFont: (id: number) => client.DELETE('/fonts/{id}', { params: numbered(id) }),
  series: () => all((query) => got(client.GET('/number-series', { params: { query } }))),
  setSeries: (id: number, body: Body<'postNumberSeries'>) =>
    got(client.PATCH('/number-series/{id}', { params: numbered(id), body })),
  addSeries: (body: Body<'postNumberSeries'>) =>
    got(client.POST('/number-series', { params: { header: once() }, body })),
  people: () => all((query) => got(client.GET('/people', { params: { query } }))),
  addPerson: (body: Body<'postPeople'>) => got(client.POST('/people', { params: { header: once() }, body })),
  setPerson: (id: number, body: Body<'postPeople'>) =>
    got(client.PATCH('/people/{id}', { params: numbered(id), body })),
  keys: () => all((query) => got(client.GET('/keys', { params: { query } }))),
  addKey: (body: Body<'postKeys'>) => got(client.POST('/keys', { params: { header: once() }, body })),
  revokeKey: (id: number) => client.DELETE('/keys/{id}', { params: numbered(id) }),
}
