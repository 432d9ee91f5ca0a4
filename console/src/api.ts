import { reactive } from 'vue'

/** An error as the service tells it (RFC 9457). */
export class Problem extends Error {
  constructor(
    public status: number,
    detail: string,
  ) {
    super(detail)
  }
}

export interface Person {
  id: number
  email: string
  name: string
  role: string
  scopes: string[]
  disabled?: boolean
}
export interface TemplateRow {
  name: string
  title: string
  latest: number
  updated: string
}
export interface FileBody {
  text?: string
  base64?: string
}
export interface TemplateFiles {
  name: string
  title: string
  version: number
  latest: number
  revision: number
  note: string
  author: string
  created: string
  files: Record<string, FileBody>
  fields?: string[]
  fault?: string
  manifest?: { page: string; sample: string; styles: string[] | null; filename: string }
}
export interface Starter {
  name: string
  what: string
  files?: Record<string, FileBody>
}
export interface Overview {
  waiting: number
  approved: number
  failedDeliveries: number
  failed: Delivery[]
  batches: Batch[]
  drafts: { name: string; title: string; author: string; updated: string }[]
  days: Day[]
  recent: DocumentRow[]
  templates: number
  recordSets: number
}
export interface Day {
  day: string
  documents: number
}
export interface Version {
  number: number
  note: string
  author: string
  created: string
}
export interface FileDifference {
  path: string
  change: string
  lines?: string
}
export interface RecordSet {
  id: number
  name: string
  count: number
  author: string
  created: string
}
export interface RecordRow {
  number: number
  label: string
  revision: number
  data: Record<string, unknown>
  fault?: string
}
export interface Imported extends RecordSet {
  bad: string[]
  notes: string[]
  preview?: Record<string, unknown>[]
}
export interface Finding {
  code: string
  severity: string
  message: string
  file?: string
  line?: number
  column?: number
  page?: number
  rect?: number[]
  advice?: string
}
export interface Sheet {
  width: number
  height: number
  area: number[]
  end: number
  break: string
  advice?: string
  file?: string
  line?: number
  column?: number
}
export interface Rendered {
  pages: number
  title: string
  findings: Finding[]
  html: string
  sheets: Sheet[]
  pdf: ArrayBuffer
}
export interface DocumentRow {
  id: number
  number?: string
  name: string
  title: string
  state: string
  template?: string
  version?: number
  record: number
  batch?: number
  recordSet?: number
  pages: number
  bytes: number
  sha256: string
  verify?: string
  author: string
  approver?: string
  reason?: string
  revision: number
  created: string
  issued?: string
  findings?: Finding[]
  error?: string
  keepUntil?: string
  hold?: string
  erased?: string
}
export interface Batch {
  id: number
  template: string
  version: number
  recordSet: number
  series?: string
  drafts: boolean
  state: string
  priority: number
  total: number
  done: number
  failed: number
  author: string
  revision: number
  created: string
  ended?: string
}
export interface Item {
  record: number
  state: string
  tries: number
  error?: string
  document?: number
}
export interface Entry {
  id: number
  kind: string
  document: number
  number: string
  name: string
  pages: number
  who: string
  at: string
  checksum: string
  previous: string
}
export interface Delivery {
  id: number
  document: number
  kind: string
  to: string
  state: string
  tries: number
  error?: string
  sent?: string
  created: string
}
export interface Share {
  id: number
  document: number
  address?: string
  uses: number
  limit?: number
  expires?: string
  revoked: boolean
}
export interface Font {
  id: number
  file: string
  family: string
  leastBold: number
  mostBold: number
  italic: boolean
  bytes: number
}
export interface Series {
  id: number
  name: string
  pattern: string
  next: number
  approval: boolean
  revision: number
}
export interface LoggedIn {
  name: string
  agent: string
  address: string
  since: string
  ends: string
  this: boolean
}
export interface Key {
  id: number
  name: string
  scopes: string
  templates?: string
  expires?: string
  revoked: boolean
  author: string
  created: string
  key?: string
}
export interface Happening {
  id: number
  at: string
  who: string
  action: string
  kind: string
  ref: string
  detail?: string
}
export interface Setup {
  public: string
  ways: string[]
  hosts: string[]
  maxPages: number
  seconds: number
  maxBody: number
  atOnce: number
}
export interface List<T> {
  items: T[]
  total: number
}

interface Request {
  body?: unknown
  raw?: Blob | FormData
  revision?: number
  accept?: string
  once?: boolean
}

async function send(method: string, path: string, r: Request = {}): Promise<Response> {
  const headers: Record<string, string> = { 'X-Olive-Console': '1' }
  if (r.body !== undefined) headers['Content-Type'] = 'application/json'
  if (r.revision) headers['If-Match'] = `"${r.revision}"`
  if (r.accept) headers.Accept = r.accept
  if (r.once) headers['Idempotency-Key'] = crypto.randomUUID?.() ?? String(Math.random())
  let res: Response
  try {
    res = await fetch('/api/v1' + path, {
      method,
      headers,
      body: r.raw ?? (r.body === undefined ? undefined : JSON.stringify(r.body)),
    })
  } catch {
    throw new Problem(0, 'The service does not answer. Your work is still here; try again in a moment.')
  }
  if (res.ok) return res
  const problem = await res.json().catch(() => ({ detail: res.statusText }))
  if (res.status === 401 && session.person) {
    session.person = null
    window.location.assign('/log-in')
  }
  throw new Problem(res.status, problem.detail)
}

const json = async <T>(res: Promise<Response>): Promise<T> => (await res).json()
const get = <T>(path: string, query: Record<string, string | number | undefined> = {}) => {
  const q = new URLSearchParams()
  for (const [k, v] of Object.entries(query)) if (v !== undefined && v !== '') q.set(k, String(v))
  return json<T>(send('GET', path + (q.size ? `?${q}` : '')))
}
const post = <T>(path: string, body?: unknown, once = false) => json<T>(send('POST', path, { body, once }))
const patch = <T>(path: string, body: unknown, revision?: number) => json<T>(send('PATCH', path, { body, revision }))
const name = encodeURIComponent

export type Query = Record<string, string | number | undefined>

export const session = reactive({
  person: null as Person | null,
  async load(): Promise<boolean> {
    try {
      this.person = await json<Person>(send('GET', '/session'))
    } catch {
      this.person = null
    }
    return this.person !== null
  },
  async logIn(email: string, password: string) {
    this.person = await json<Person>(send('POST', '/session', { body: { email, password } }))
  },
  async logOut() {
    await send('DELETE', '/session')
    this.person = null
  },
  may(scope: string): boolean {
    return this.person?.scopes.includes(scope) ?? false
  },
})

function bytes(base64: string): ArrayBuffer {
  return Uint8Array.from(atob(base64), (c) => c.charCodeAt(0)).buffer
}

export const service = {
  signInWay: () => get<{ name: string }>('/sign-in/way'),
  sessions: () => get<List<LoggedIn>>('/sessions'),
  endSession: (n: string) => send('DELETE', `/sessions/${name(n)}`),
  changePassword: (before: string, next: string) => send('PUT', '/password', { body: { old: before, new: next } }),

  overview: () => get<Overview>('/overview'),
  starters: () => get<List<Starter>>('/starters'),
  starter: (n: string) => get<Starter>(`/starters/${name(n)}`),
  templates: () => get<List<TemplateRow>>('/templates', { limit: 500 }),
  template: (n: string, version = 0) =>
    get<TemplateFiles>(`/templates/${name(n)}` + (version ? `/versions/${version}` : '')),
  versions: (n: string) => get<List<Version>>(`/templates/${name(n)}/versions`, { limit: 500 }),
  difference: (n: string, from: number, to: number) =>
    get<List<FileDifference>>(`/templates/${name(n)}/versions/${from}/difference/${to}`),
  draft: (n: string) => get<TemplateFiles>(`/templates/${name(n)}/draft`),
  saveDraft: (n: string, files: Record<string, FileBody>, revision: number) =>
    json<TemplateFiles>(send('PUT', `/templates/${name(n)}/draft`, { body: { files }, revision })),
  draftOfZip: (n: string, zip: Blob) =>
    json<TemplateFiles>(
      send('PUT', `/templates/${name(n)}/draft`, { raw: new Blob([zip], { type: 'application/zip' }) }),
    ),
  dropDraft: (n: string) => send('DELETE', `/templates/${name(n)}/draft`),
  publish: (n: string, files: Record<string, FileBody>, note: string) =>
    post<{ version: number }>(`/templates/${name(n)}/versions`, { files, note }, true),

  recordSets: () => get<List<RecordSet>>('/record-sets', { limit: 500 }),
  dropRecordSet: (id: number) => send('DELETE', `/record-sets/${id}`),
  records: (id: number, query: Query) => get<List<RecordRow>>(`/record-sets/${id}/records`, query),
  record: (id: number, n: number) => get<RecordRow>(`/record-sets/${id}/records/${n}`),
  saveRecord: (id: number, n: number, data: unknown, revision: number) =>
    json<RecordRow>(send('PUT', `/record-sets/${id}/records/${n}`, { body: data, revision })),
  addRecord: (id: number, data: unknown) => post<RecordRow>(`/record-sets/${id}/records`, data, true),
  // importRecords sends a file of records, and one of the rows that belong to them if there is one.
  async importRecords(file: File, query: Query, preview: boolean, lines?: File): Promise<Imported> {
    const q = new URLSearchParams({ name: file.name, 'skip-bad': '1' })
    for (const [k, v] of Object.entries(query)) if (v) q.set(k, String(v))
    let body: Blob | FormData = file
    if (lines) {
      body = new FormData()
      body.append('records', file)
      body.append('lines', lines)
    }
    return json<Imported>(send('POST', `${preview ? '/record-previews' : '/record-sets'}?${q}`, { raw: body }))
  },

  async render(body: object): Promise<Rendered> {
    const out = await json<Omit<Rendered, 'pdf'> & { pdf: string }>(
      send('POST', '/renderings', { body, accept: 'application/json' }),
    )
    return { ...out, pdf: bytes(out.pdf) }
  },

  batches: (query: Query) => get<List<Batch>>('/batches', query),
  batch: (id: number) => get<Batch>(`/batches/${id}`),
  startBatch: (body: object) => post<Batch>('/batches', body, true),
  setBatch: (id: number, state: string) => patch<Batch>(`/batches/${id}`, { state }),
  retryBatch: (id: number) => post<Batch>(`/batches/${id}/retry`),
  items: (id: number, query: Query) => get<List<Item>>(`/batches/${id}/items`, query),

  documents: (query: Query) => get<List<DocumentRow>>('/documents', query),
  document: (id: number) => get<DocumentRow>(`/documents/${id}`),
  order: (body: object) => post<{ items: DocumentRow[]; failed: number }>('/documents', body, true),
  setDocument: (d: DocumentRow, state: string, reason = '') =>
    patch<DocumentRow>(`/documents/${d.id}`, { state, reason }, d.revision),
  hold: (d: DocumentRow, reason: string) =>
    json<DocumentRow>(
      send(reason ? 'PUT' : 'DELETE', `/documents/${d.id}/hold`, {
        body: reason ? { reason } : undefined,
        revision: d.revision,
      }),
    ),
  history: (id: number) => get<List<Happening>>(`/documents/${id}/history`, { limit: 100 }),
  repeat: (id: number) => post<{ same: boolean }>(`/documents/${id}/repetition`),
  deliver: (body: object) => post<Delivery>('/deliveries', body, true),
  deliveries: (document: number) => get<List<Delivery>>('/deliveries', { document }),
  retryDelivery: (id: number) => post<Delivery>(`/deliveries/${id}/retry`),
  share: (body: object) => post<Share>('/share-links', body, true),
  shares: (document: number) => get<List<Share>>('/share-links', { document }),
  revokeShare: (id: number) => send('DELETE', `/share-links/${id}`),

  ledger: (query: Query) => get<List<Entry>>('/ledger', query),
  verifyLedger: () =>
    post<{
      rows: number
      signed: number
      key: string
      sound: boolean
      faults: { entry: number; message: string }[]
      witnessed?: { rows: number; at: string; who: string }
    }>('/ledger/verification'),
  fonts: () => get<List<Font>>('/fonts', { limit: 500 }),
  addFont: (file: File) =>
    json<Font>(send('POST', `/fonts?${new URLSearchParams({ name: file.name })}`, { raw: file })),
  withdrawFont: (id: number) => send('DELETE', `/fonts/${id}`),
  series: () => get<List<Series>>('/number-series', { limit: 500 }),
  setSeries: (id: number, body: object) => patch<Series>(`/number-series/${id}`, body),
  addSeries: (body: object) => post<Series>('/number-series', body, true),
  people: () => get<List<Person>>('/people', { limit: 500 }),
  addPerson: (body: object) => post<Person>('/people', body, true),
  setPerson: (id: number, body: object) => patch<Person>(`/people/${id}`, body),
  keys: () => get<List<Key>>('/keys', { limit: 500 }),
  addKey: (body: object) => post<Key>('/keys', body, true),
  revokeKey: (id: number) => send('DELETE', `/keys/${id}`),
  setup: () => get<Setup>('/setup'),
  events: (query: Query) => get<List<Happening>>('/events', query),
}

const shown = (t: string | undefined, style: Intl.DateTimeFormatOptions) =>
  t ? new Date(t).toLocaleString(document.documentElement.lang === 'de' ? 'de' : 'en-GB', style) : '–'
export const when = (t?: string) => shown(t, { dateStyle: 'medium', timeStyle: 'short' })
export const day = (t?: string) => shown(t, { dateStyle: 'medium' })
export const kilobytes = (n: number) => `${Math.max(1, Math.round(n / 1024))} KB`
