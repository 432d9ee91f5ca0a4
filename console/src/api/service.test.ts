import { describe, expect, it, vi } from 'vitest'
import { answering, problem } from '../testing/service'
import { useSession } from '../stores/session'
import { Problem, service } from '.'

describe('what the service is asked', () => {
  it('comes from the console, with what was asked for and nothing that is empty', async () => {
    const asked = answering({ 'GET /documents': { items: [], total: 0 } })
    await service.documents({ offset: 0, limit: 20, search: '', template: 'invoice', state: undefined })
    expect(asked[0].path).toBe('/documents?offset=0&limit=20&template=invoice')
    expect(asked[0].headers.get('X-Olive-Console')).toBe('1')
  })

  it('is done once where it makes something, and only to the revision that was seen', async () => {
    const asked = answering({ 'POST /share-links': { id: 1 }, 'PUT /templates/card/draft': { revision: 4 } })
    await service.share({ document: 3 })
    await service.share({ document: 3 })
    await service.saveDraft('card', { 'page.html': { text: 'x' } }, 3)
    await service.saveDraft('card', {}, 0)
    const keys = asked.slice(0, 2).map((a) => a.headers.get('Idempotency-Key'))
    expect(keys[0]).toBeTruthy()
    expect(keys[0]).not.toBe(keys[1])
    expect(asked[2].headers.get('If-Match')).toBe('"3"')
    expect(asked[2].body).toEqual({ files: { 'page.html': { text: 'x' } } })
    expect(asked[3].headers.get('If-Match')).toBeNull()
  })

  it('takes names as they are written', async () => {
    const asked = answering({ 'GET /templates/a%2Fb%20c': { name: 'a/b c' } })
    expect((await service.template('a/b c')).name).toBe('a/b c')
    expect(asked).toHaveLength(1)
  })
})

describe('long lists', () => {
  it('are read to their end', async () => {
    const rows = Array.from({ length: 230 }, (_, i) => ({ name: `t${i}` }))
    const asked = answering({
      'GET /templates': ({ path }) => {
        const q = new URLSearchParams(path.split('?')[1])
        const from = Number(q.get('offset'))
        return { items: rows.slice(from, from + Number(q.get('limit'))), total: rows.length }
      },
    })
    const { items } = await service.templates()
    expect(items.map((x) => x.name)).toEqual(rows.map((x) => x.name))
    expect(asked.map((a) => a.path)).toEqual([0, 100, 200].map((n) => `/templates?offset=${n}&limit=100`))
  })

  it('end where rows have gone meanwhile', async () => {
    answering({
      'GET /templates': ({ path }) =>
        path.includes('offset=0') ? { items: [{ name: 'a' }], total: 2 } : { items: [], total: 1 },
    })
    expect((await service.templates()).items).toHaveLength(1)
  })
})

describe('problems', () => {
  it('are told in the words of the service', async () => {
    answering({ 'GET /overview': problem(503, 'the database does not answer') })
    const failed = await service.overview().catch((e) => e)
    expect(failed).toBeInstanceOf(Problem)
    expect(failed.status).toBe(503)
    expect(failed.message).toBe('the database does not answer')
  })

  it('of a line that is cut say that nothing is lost', async () => {
    vi.stubGlobal('fetch', () => Promise.reject(new TypeError('failed to fetch')))
    const failed = await service.overview().catch((e) => e)
    expect(failed).toBeInstanceOf(Problem)
    expect(failed.message).toContain('Your work is still here')
  })

  it('of one who is no longer logged in lead to the log-in', async () => {
    window.document.cookie = 'olive_here=1'
    answering({
      'GET /session': { email: 'a@b', name: 'A', scopes: ['read'] },
      'GET /overview': problem(401, 'log in'),
    })
    const go = vi.spyOn(window.location, 'assign').mockImplementation(() => {})
    const session = useSession()
    expect(await session.load()).toBe(true)
    expect([session.may('read'), session.may('keep')]).toEqual([true, false])
    await service.overview().catch(() => {})
    expect(session.person).toBeNull()
    expect(go).toHaveBeenCalledWith('/log-in')
  })

  it('of one who never was logged in do not, and nobody is asked', async () => {
    const asked = answering({ 'GET /session': problem(401, 'log in') })
    const go = vi.spyOn(window.location, 'assign').mockImplementation(() => {})
    window.document.cookie = 'olive_here=; expires=Thu, 01 Jan 1970 00:00:00 GMT'
    expect(await useSession().load()).toBe(false)
    expect(asked).toEqual([])
    window.document.cookie = 'olive_here=1' // of a session that has been ended elsewhere
    expect(await useSession().load()).toBe(false)
    expect(asked).toHaveLength(1)
    expect(go).not.toHaveBeenCalled()
  })
})
