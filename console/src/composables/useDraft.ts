import { ElMessageBox } from 'element-plus'
import { computed, onBeforeUnmount, onMounted, reactive, ref, type Ref } from 'vue'
import { Problem, service, type FileBody, type Files, type TemplateFiles } from '../api'
import { t } from '../i18n'
import { useSession } from '../stores/session'

/** How long after the last change it is kept, and tried again when the line is cut; in ms. */
const pause = 1200
const pauseAfterFailure = 5000

/**
 * The files of a template as they are being edited. Changes are kept as its draft in the service, which published
 * versions do not hear of; what could not be sent stays in the browser until it could.
 */
export function useDraft(name: Ref<string>) {
  const session = useSession()
  const template = ref<TemplateFiles>()
  const files = reactive<Files>({})
  const revision = ref(0) // of the draft; 0 while there is none
  const changed = ref(false) // against the published version
  const unsaved = ref(false) // against the draft
  const safe = computed(() => `olive.draft.${name.value}`)
  let saving = 0

  async function load() {
    const now = await service.edited(name.value)
    revision.value = now.revision
    changed.value = now.version === 0
    const left = localStorage.getItem(safe.value)
    if (left) {
      now.files = JSON.parse(left)
      unsaved.value = changed.value = true
    }
    template.value = now
    Object.keys(files).forEach((k) => delete files[k])
    Object.assign(files, now.files)
    if (left) keep()
  }

  function put(file: string, body: FileBody) {
    files[file] = body
    touched()
  }
  function remove(file: string) {
    delete files[file]
    touched()
  }
  function touched() {
    changed.value = unsaved.value = true
    later(pause)
  }
  function later(ms: number) {
    clearTimeout(saving)
    saving = window.setTimeout(keep, ms)
  }

  async function keep() {
    if (!session.may('design')) return
    const sent = JSON.stringify(files)
    try {
      const d = await service.saveDraft(name.value, { ...files }, revision.value)
      revision.value = d.revision
      if (template.value) template.value.fields = d.fields ?? template.value.fields
      if (sent === JSON.stringify(files)) unsaved.value = false
      localStorage.removeItem(safe.value)
    } catch (e) {
      localStorage.setItem(safe.value, sent)
      if (!(e instanceof Problem) || e.status !== 412) later(pauseAfterFailure)
      else if (await mine(e)) {
        revision.value = (await service.draft(name.value).catch(() => ({ revision: 0 }))).revision
        keep()
      }
    }
  }

  /** Asks whether one's own changes take the place of what someone else has kept meanwhile. */
  const mine = (e: Problem) =>
    ElMessageBox.confirm(e.message, name.value, { confirmButtonText: t('Save'), cancelButtonText: t('Cancel') }).then(
      () => true,
      () => false,
    )

  async function publish(note: string) {
    const out = await service.publish(name.value, { ...files }, note)
    clearTimeout(saving)
    changed.value = unsaved.value = false
    revision.value = 0
    localStorage.removeItem(safe.value)
    if (template.value) template.value.latest = template.value.version = out.version
    return out.version
  }

  async function drop() {
    clearTimeout(saving)
    if (revision.value) await service.dropDraft(name.value)
    localStorage.removeItem(safe.value)
    unsaved.value = false
  }

  const leaving = (e: BeforeUnloadEvent) => {
    if (!unsaved.value) return
    localStorage.setItem(safe.value, JSON.stringify(files))
    e.preventDefault()
  }
  onMounted(() => window.addEventListener('beforeunload', leaving))
  onBeforeUnmount(() => {
    window.removeEventListener('beforeunload', leaving)
    clearTimeout(saving)
    if (unsaved.value) keep()
  })
  return { template, files, revision, changed, unsaved, load, put, remove, publish, drop }
}
