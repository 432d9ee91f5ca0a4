import { reactive } from 'vue'

/** An error as the service tells it (RFC 9457). */
export class Problem extends Error {
  constructor(public status: number, detail: string) {
    super(detail)
  }
}

export interface Person { email: string; name: string }
export interface TemplateRow { name: string; title: string; latest: number; updated: string }
export interface FileBody { text?: string; base64?: string }
export interface TemplateVersion {
  name: string; title: string; version: number; latest: number; note: string; author: string; created: string
  files: Record<string, FileBody>
  manifest?: { page: string; sample: string; styles: string[] | null; filename: string }
}
export interface RecordSet { id: number; name: string; count: number; created: string }
export interface RecordRow { number: number; label: string; data: Record<string, unknown> }
export interface Finding { code: string; severity: string; message: string; file?: string; line?: number; page?: number; advice?: string }
export interface DocumentRow {
  id: number; name: string; title: string; template?: string; version?: number; record: number
  pages: number; bytes: number; sha256: string; author: string; created: string; error?: string
}

async function send(method: string, path: string, body?: unknown, raw?: Blob): Promise<Response> {
  let res: Response
  try {
    res = await fetch('/api/v1' + path, {
      method,
      headers: { 'X-Olive-Console': '1', ...(body !== undefined ? { 'Content-Type': 'application/json' } : {}) },
      body: raw ?? (body === undefined ? undefined : JSON.stringify(body)),
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
    this.person = await json<Person>(send('POST', '/session', { email, password }))
  },
  async logOut() {
    await send('DELETE', '/session')
    this.person = null
  },
})

export interface Rendering { pdf: ArrayBuffer; pages: number; findings: Finding[] }

/** decodes a header in RFC 2047's Q encoding, as the service sends findings */
function decodeWords(value: string): string {
  const bytes: number[] = []
  for (const part of value.split(/\s+/)) {
    const m = /^=\?utf-8\?q\?(.*)\?=$/i.exec(part)
    const text = m ? m[1].replace(/_/g, ' ') : part
    const length = text.length
    for (let i = 0; i < length; i++) {
      if (m && text[i] === '=') {
        bytes.push(parseInt(text.slice(i + 1, i + 3), 16))
        i += 2
      } else bytes.push(text.charCodeAt(i))
    }
  }
  return new TextDecoder().decode(new Uint8Array(bytes))
}

export const service = {
  templates: () => json<{ items: TemplateRow[] }>(send('GET', '/templates')),
  template: (name: string) => json<TemplateVersion>(send('GET', `/templates/${encodeURIComponent(name)}`)),
  publish: (name: string, files: Record<string, FileBody>, note: string) =>
    json<{ version: number }>(send('PUT', `/templates/${encodeURIComponent(name)}`, { files, note })),
  recordSets: () => json<{ items: RecordSet[] }>(send('GET', '/record-sets')),
  records: (id: number, offset: number, limit: number) =>
    json<{ items: RecordRow[]; total: number }>(send('GET', `/record-sets/${id}/records?offset=${offset}&limit=${limit}`)),
  importRecords: (file: File) =>
    json<RecordSet>(send('POST', `/record-sets?name=${encodeURIComponent(file.name)}`, undefined, file)),
  documents: (search: string, offset: number, limit: number) =>
    json<{ items: DocumentRow[]; total: number }>(send('GET', `/documents?search=${encodeURIComponent(search)}&offset=${offset}&limit=${limit}`)),
  issue: (template: string, recordSet: number, records: number[]) =>
    json<{ items: DocumentRow[]; failed: number }>(send('POST', '/documents', { template, recordSet, records })),
  async render(body: object): Promise<Rendering> {
    const res = await send('POST', '/renderings', body)
    const header = res.headers.get('X-Olive-Findings')
    return {
      pdf: await res.arrayBuffer(),
      pages: Number(res.headers.get('X-Olive-Pages')),
      findings: header ? JSON.parse(decodeWords(header)) ?? [] : [],
    }
  },
}

export const when = (t: string) =>
  new Date(t).toLocaleString(undefined, { dateStyle: 'medium', timeStyle: 'short' })
export const kilobytes = (n: number) => `${Math.max(1, Math.round(n / 1024))} KB`
