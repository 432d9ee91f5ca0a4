/** A field of a record as templates name it. */
export interface Field {
  path: string // dotted, from the record or from an entry of the list it stands in
  depth: number // lists around it
  list: boolean
  value: string // what it holds, in short
}

const longest = 60

const short = (v: unknown): string => {
  const text = typeof v === 'string' ? v : JSON.stringify(v)
  return text.length > longest ? text.slice(0, longest - 1) + '…' : text
}

/** The fields of a record in its order; those of a list's entries follow the list, by its first entry. */
export function fieldsOf(record: unknown, depth = 0, before = ''): Field[] {
  if (record === null || typeof record !== 'object' || Array.isArray(record)) return []
  return Object.entries(record).flatMap(([name, v]) => {
    const path = before + '.' + name
    if (Array.isArray(v)) {
      const list = { path, depth, list: true, value: String(v.length) }
      return [list, ...fieldsOf(v[0], depth + 1)]
    }
    if (v !== null && typeof v === 'object') return fieldsOf(v, depth, path)
    return [{ path, depth, list: false, value: short(v) }]
  })
}

/** The paths to the plain values of a record, in its order; those in lists are left out. */
export function plainPaths(data: unknown, before: string[] = []): string[][] {
  if (data === null || typeof data !== 'object' || Array.isArray(data)) return []
  return Object.entries(data).flatMap(([name, v]) => {
    const path = [...before, name]
    return v !== null && typeof v === 'object' ? plainPaths(v, path) : [path]
  })
}

/** What shows a field in a template; a list becomes a loop. */
export const placing = (f: Field): string => (f.list ? `{{range ${f.path}}}\n{{end}}` : `{{${f.path}}}`)
