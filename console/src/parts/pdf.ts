import * as pdfjs from 'pdfjs-dist'
import worker from 'pdfjs-dist/build/pdf.worker.min.mjs?url'

pdfjs.GlobalWorkerOptions.workerSrc = worker

export type Pdf = pdfjs.PDFDocumentProxy

export const loadPages = (data: ArrayBuffer): Promise<Pdf> => pdfjs.getDocument({ data: new Uint8Array(data), isEvalSupported: false }).promise

/** draws a page onto a canvas that is width CSS px wide */
export async function drawPage(pdf: Pdf, number: number, canvas: HTMLCanvasElement, width: number) {
  const page = await pdf.getPage(number)
  const natural = page.getViewport({ scale: 1 })
  const ratio = window.devicePixelRatio || 1
  const viewport = page.getViewport({ scale: (width / natural.width) * ratio })
  const buffer = document.createElement('canvas') // no flash: the old page stays until the new one is drawn
  buffer.width = Math.round(viewport.width)
  buffer.height = Math.round(viewport.height)
  await page.render({ canvas: buffer, canvasContext: buffer.getContext('2d')!, viewport }).promise
  canvas.width = buffer.width
  canvas.height = buffer.height
  canvas.style.width = `${width}px`
  canvas.style.height = `${viewport.height / ratio}px`
  canvas.getContext('2d')!.drawImage(buffer, 0, 0)
}
