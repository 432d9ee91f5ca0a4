import { onBeforeUnmount, ref, shallowRef } from 'vue'
import { service, type Finding, type Probe, type Probed, type Rendering, type Sheet } from '../api'

/**
 * The pages of what is being edited. ask tells what to set, draw shows the PDF and is told when that is not wanted
 * any more: a newer one is under way.
 */
export function usePreview(ask: () => Rendering, draw: (pdf: ArrayBuffer, wanted: () => boolean) => Promise<void>) {
  const failure = ref('') // why pages could not be made
  const findings = shallowRef<Finding[]>([])
  const sheets = shallowRef<Sheet[]>([])
  const probe = ref<Probe>() // a point of a page that is asked about
  const probed = shallowRef<Probed[]>([]) // the elements there, the outermost first
  const merged = ref('') // the markup with the record in it
  const pages = ref(0)
  const took = ref(0) // from the wish to the pages, in ms
  const busy = ref(false)
  let timer = 0
  let turn = 0
  let again = false // something has changed while pages were being set

  async function show() {
    const mine = ++turn
    busy.value = true
    const start = performance.now()
    try {
      const out = await service.render({ ...ask(), probe: probe.value })
      if (mine !== turn) return
      findings.value = out.findings
      sheets.value = out.sheets
      merged.value = out.html
      probed.value = out.probed ?? []
      failure.value = ''
      await draw(out.pdf, () => mine === turn)
      if (mine !== turn) return
      pages.value = out.pages
      took.value = Math.round(performance.now() - start)
    } catch (e) {
      if (mine === turn) failure.value = (e as Error).message
    } finally {
      if (mine === turn) {
        busy.value = false
        if (again) soon()
        again = false
      }
    }
  }

  /** Shows a change at once, or when the pages that are being set are there. */
  function soon() {
    clearTimeout(timer)
    if (busy.value) again = true
    else timer = window.setTimeout(show, 20)
  }
  onBeforeUnmount(() => clearTimeout(timer))
  return { failure, findings, sheets, probe, probed, merged, pages, took, busy, show, soon }
}
