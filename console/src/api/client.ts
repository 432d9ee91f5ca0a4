import createClient, { type Middleware } from 'openapi-fetch'
import { t } from '../i18n'
import { inWords } from '../problemwords'
import { Problem } from './problem'
import type { paths } from './schema'

/** Calls are typed by the description of the API; schema.d.ts is made from it. */
export const client = createClient<paths>({ baseUrl: '/api/v1', fetch: (request) => fetch(request) })

/** What is done when the service no longer knows who asks. */
let loggedOut = () => {}
export function onLoggedOut(what: () => void) {
  loggedOut = what
}

const asConsole: Middleware = {
  onRequest({ request }) {
    request.headers.set('X-Olive-Console', '1')
  },
  async onResponse({ response }) {
    if (response.ok) return
    const problem = await response.json().catch(() => ({ detail: response.statusText }))
    if (response.status === 401) loggedOut()
    throw new Problem(response.status, inWords(problem.detail))
  },
  onError() {
    return new Problem(0, t('The service does not answer. Your work is still here; try again in a moment.'))
  },
}
client.use(asConsole)

/** What a call answers; problems are thrown. */
export const got = async <T>(call: Promise<{ data?: T }>): Promise<T> => (await call).data as T

/** Headers of a request that is done once, however often it is sent. */
export const once = () => ({ 'Idempotency-Key': crypto.randomUUID?.() ?? String(Math.random()) })

/** Headers of a change to what had this revision. */
export const ofRevision = (n: number) => (n ? { 'If-Match': `"${n}"` } : {})

/** How a file is sent: as it is, with the type that the browser gives it. */
export const asFile = {
  headers: { 'Content-Type': null },
  bodySerializer: (body: unknown) => body as BodyInit,
}
