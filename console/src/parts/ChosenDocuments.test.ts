import { ElMessage, ElMessageBox } from 'element-plus'
import { flushPromises, mount } from '@vue/test-utils'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { DocumentRow } from '../api'
import { useSession } from '../stores/session'
import { answering, problem } from '../testing/service'
import ChosenDocuments from './ChosenDocuments.vue'

const doc = (id: number, state: DocumentRow['state']) =>
  ({ id, state, name: `card-${id}.pdf`, revision: 1 }) as DocumentRow
const list = [doc(1, 'draft'), doc(2, 'draft'), doc(3, 'approved'), doc(4, 'issued'), doc(5, 'void')]
const may = (...scopes: string[]) => (useSession().person = { email: 'a@b', name: 'A', scopes })
const buttons = (w: ReturnType<typeof mount>) => w.findAll('button').map((b) => b.text())

beforeEach(() => {
  may('read', 'approve', 'send')
})

describe('what can be done with several documents', () => {
  it('is what their states and the person allow', () => {
    expect(buttons(mount(ChosenDocuments, { props: { documents: list } }))).toEqual([
      'Approve 2',
      'Issue 1',
      'Send 1 …',
    ])
    may('read')
    const w = mount(ChosenDocuments, { props: { documents: list } })
    expect(buttons(w)).toEqual([])
    expect(w.findAll('a').map((a) => a.attributes('href'))).toEqual([
      '/api/v1/documents/zip?ids=1,2,3,4,5',
      '/api/v1/documents/bound?ids=1,2,3,4,5',
    ])
  })

  it('is done with each, and what fails does not keep the others back', async () => {
    const good = vi.spyOn(ElMessage, 'success').mockReturnValue(undefined as never)
    const bad = vi.spyOn(ElMessageBox, 'alert').mockResolvedValue(undefined as never)
    const asked = answering({
      'PATCH /documents/1': problem(409, 'someone else has to approve it'),
      'PATCH /documents/2': { id: 2 },
    })
    const w = mount(ChosenDocuments, { props: { documents: list } })
    await w.find('[data-test=approve-all]').trigger('click')
    await flushPromises()
    expect(asked.map((a) => [a.path, a.body])).toEqual([
      ['/documents/1', { state: 'approved', reason: '' }],
      ['/documents/2', { state: 'approved', reason: '' }],
    ])
    expect(good).toHaveBeenCalledWith('1 of 2 done')
    expect(bad).toHaveBeenCalledWith('card-1.pdf: someone else has to approve it', 'It did not work for 1')
    expect(w.emitted('done')).toHaveLength(1)
  })
})
