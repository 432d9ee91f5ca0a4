import { computed, ref, type Ref } from 'vue'
import { service, type RecordRow } from '../api'
import { attempt } from '../attempt'

/** A value somewhere in a record: its fields and places in lists, from the outside. */
export interface Change {
  record: number
  path: (string | number)[]
  value: unknown
}

/** The value at a place of a record; undefined where there is none. */
export const valueAt = (data: unknown, path: Change['path']): unknown =>
  path.reduce<unknown>((at, key) => (at as Record<string | number, unknown> | undefined)?.[key], data)

/** A copy of a record with another value somewhere in it; undefined takes the field away. */
function withChange(data: unknown, [key, ...rest]: Change['path'], value: unknown): unknown {
  const next = rest.length ? withChange(valueAt(data, [key]), rest, value) : value
  if (Array.isArray(data)) return data.map((x, i) => (i === key ? next : x))
  const copy = { ...(data as object), [key]: next } as Record<string, unknown>
  if (next === undefined) delete copy[key]
  return copy
}

/** What was typed, as the kind of value that stood there: numbers and yes or no stay what they are. */
export function asBefore(was: unknown, typed: string): unknown {
  if (typeof was === 'number' && typed !== '' && !Number.isNaN(Number(typed))) return Number(typed)
  if (typeof was === 'boolean' && (typed === 'true' || typed === 'false')) return typed === 'true'
  return typed
}

/** Cells that a spreadsheet has put on the clipboard: rows of texts. */
export const cellsOf = (text: string): string[][] =>
  text
    .replace(/\r\n?/g, '\n')
    .replace(/\n$/, '')
    .split('\n')
    .map((line) => line.split('\t'))

/** Changes of records that are kept at once, and can be taken back step by step. */
export function useRecordEdits(set: () => number, rows: Ref<RecordRow[] | undefined>) {
  const done = ref<Change[][]>([]) // what takes each step back
  const undone = ref<Change[][]>([])
  const busy = ref(false)

  const shown = (number: number) => rows.value?.find((r) => r.number === number)

  /** Keeps changes, record by record, and gives what takes them back: those that were kept. */
  async function keep(changes: Change[]): Promise<Change[]> {
    const back: Change[] = []
    for (const number of new Set(changes.map((c) => c.record))) {
      const own = changes.filter((c) => c.record === number)
      const ok = await attempt(async () => {
        const row = shown(number) ?? (await service.record(set(), number))
        const before = own.map((c) => ({ ...c, value: valueAt(row.data, c.path) }))
        const data = own.reduce<unknown>((d, c) => withChange(d, c.path, c.value), row.data)
        Object.assign(row, await service.saveRecord(set(), number, data, row.revision))
        back.unshift(...before.reverse())
        return true
      })
      if (!ok) break
    }
    return back
  }
  async function step(changes: Change[], to: Ref<Change[][]>) {
    busy.value = true
    const back = await keep(changes)
    busy.value = false
    if (back.length) to.value.push(back)
    return back.length === changes.length
  }

  /** Keeps changes as one step; it tells whether all were kept. */
  async function change(changes: Change[]) {
    undone.value = []
    return step(changes, done)
  }
  async function undo() {
    const last = done.value.pop()
    if (last) await step(last, undone)
  }
  async function redo() {
    const last = undone.value.pop()
    if (last) await step(last, done)
  }
  /** Steps of another set are not taken back here. */
  function forget() {
    done.value = []
    undone.value = []
  }
  return {
    change,
    undo,
    redo,
    forget,
    canUndo: computed(() => done.value.length > 0 && !busy.value),
    canRedo: computed(() => undone.value.length > 0 && !busy.value),
  }
}
