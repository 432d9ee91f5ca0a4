import { vi } from 'vitest'

/** What the console has asked the service for. */
export interface Asked {
  method: string
  path: string
  headers: Headers
  body: unknown
}

type Answer = object | ((asked: Asked) => object | Promise<object>)

/** An answer that tells of a problem. */
export const problem = (status: number, detail: string) =>
  new Response(JSON.stringify({ type: 'about:blank', title: '', status, detail }), { status })

/**
 * Stands for the service: answers by method and path, such as 'GET /templates', and what was asked in order. What it
 * has no answer for is not found.
 */
export function answering(answers: Record<string, Answer>): Asked[] {
  const all: Asked[] = []
  vi.stubGlobal('fetch', async (request: Request) => {
    const url = new URL(request.url)
    const path = url.pathname.replace('/api/v1', '')
    const text = await request.text()
    const json = request.headers.get('Content-Type') === 'application/json'
    const asked = {
      method: request.method,
      path: path + url.search,
      headers: request.headers,
      body: json ? JSON.parse(text) : text,
    }
    all.push(asked)
    const answer = answers[`${request.method} ${path}`]
    if (!answer) return problem(404, 'there is no such thing here')
    const out = typeof answer === 'function' ? await answer(asked) : answer
    return out instanceof Response ? out.clone() : new Response(JSON.stringify(out), { status: 200 })
  })
  return all
}
