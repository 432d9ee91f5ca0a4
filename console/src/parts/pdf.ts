import * as pdfjs from 'pdfjs-dist'
import type { Stretch } from './finding'
import worker from 'pdfjs-dist/build/pdf.worker.min.mjs?url'

pdfjs.GlobalWorkerOptions.workerSrc = worker

export type Pdf = pdfjs.PDFDocumentProxy

// one worker for all documents: starting one takes longer than reading a page
let shared: pdfjs.PDFWorker | undefined

export const loadPages = (data: ArrayBuffer): Promise<Pdf> => {
  shared ??= pdfjs.PDFWorker.create({})
  return pdfjs.getDocument({ data: new Uint8Array(data), isEvalSupported: false, worker: shared }).promise
}

/** The size of a page in CSS px. */
export async function pageSize(pdf: Pdf, number: number) {
  const { width, height } = (await pdf.getPage(number)).getViewport({ scale: 96 / 72 })
  return { width, height }
}

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

let ruler: CanvasRenderingContext2D | null | undefined

/** Measures letters in the font that the page is drawn with, or in one like it where it is not drawn yet. */
function measured(text: string, font: string) {
  const letters = [...text]
  return (n: number) => {
    ruler ??= document.createElement('canvas').getContext('2d')
    if (!ruler) return n / letters.length
    ruler.font = `100px "${font}", sans-serif`
    const width = (s: string) => ruler!.measureText(s).width
    return width(letters.slice(0, n).join('')) / (width(text) || 1)
  }
}

/** The text of a page in the order of reading, with its places. */
export async function stretchesOf(pdf: Pdf, number: number): Promise<Stretch[]> {
  const page = await pdf.getPage(number)
  const [x0, y0, x1, y1] = page.view
  const wide = x1 - x0
  const high = y1 - y0
  const list: Stretch[] = []
  for (const item of (await page.getTextContent()).items) {
    if (!('str' in item)) continue
    const size = item.height || Math.abs(item.transform[3])
    const left = (item.transform[4] - x0) / wide
    const top = (y1 - item.transform[5] - size) / high
    const box: Stretch['box'] = [left, top, item.width / wide, (size * 1.3) / high] // with what stands below the line
    list.push({ text: item.str, box, ends: item.hasEOL, before: measured(item.str, item.fontName) })
  }
  return list
}

/** the text at a place of a page, given in parts of its width and height */
export async function textAt(
  pdf: Pdf,
  number: number,
  x: number,
  y: number,
): Promise<{ word: string; run: string } | undefined> {
  for (const { text, box } of await stretchesOf(pdf, number)) {
    const [left, top, width, height] = box
    if (!text.trim() || x < left || x > left + width || y < top || y > top + height) continue
    const at = Math.min(Math.floor(((x - left) / width) * text.length), text.length - 1)
    const start = text.slice(0, at + 1).search(/\S+\s*$/)
    const word = /\S+/.exec(text.slice(Math.max(start, 0)))?.[0] ?? ''
    return { word, run: text.trim() }
  }
  return undefined
}
