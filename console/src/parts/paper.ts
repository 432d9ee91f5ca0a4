import type { Sheet } from '../api'

/** what the form for paper sets; margins are millimetres */
export interface Paper {
  size: string
  landscape: boolean
  top: number
  right: number
  bottom: number
  left: number
  header: string
  footer: string
  watermark: string
}

/** Sheets by their names (CSS Paged Media 3, §7.1), upright, in mm. */
export const papers: Record<string, [number, number]> = {
  A3: [297, 420],
  A4: [210, 297],
  A5: [148, 210],
  A6: [105, 148],
  B5: [176, 250],
  letter: [215.9, 279.4],
  legal: [215.9, 355.6],
  ledger: [279.4, 431.8],
}
export const sides = ['top', 'right', 'bottom', 'left'] as const
export type Side = (typeof sides)[number]
export const sideNames: Record<Side, string> = { top: 'Top', right: 'Right', bottom: 'Bottom', left: 'Left' }

const mm = (px: number) => Math.round(((px * 25.4) / 96) * 10) / 10
const alike = (a: number, b: number) => Math.abs(a - b) < 0.6

/** What is in effect on a page that was set: a paper without headers and the like. */
export function paperOf(s: Sheet): Paper {
  const [width, height] = [mm(s.width), mm(s.height)]
  const named = (w: number, h: number) =>
    Object.keys(papers).find((n) => alike(papers[n][0], w) && alike(papers[n][1], h))
  const upright = named(width, height)
  const [x, y, w, h] = s.area
  return {
    size: upright ?? named(height, width) ?? `${width}mm ${height}mm`,
    landscape: !upright && !!named(height, width),
    top: mm(y),
    right: mm(s.width - x - w),
    bottom: mm(s.height - y - h),
    left: mm(x),
    header: '',
    footer: '',
    watermark: '',
  }
}

/** How large a paper is, in mm; nothing where its size is written in another way. */
export function sizeOf(p: Paper): [number, number] | undefined {
  const own = /^([\d.]+)mm ([\d.]+)mm$/.exec(p.size)
  const [w, h] = papers[p.size] ?? (own ? [Number(own[1]), Number(own[2])] : [0, 0])
  if (!w || !h) return undefined
  return p.landscape ? [h, w] : [w, h]
}

/** Whether two papers have the same sheet and margins. */
export const samePaper = (a: Paper, b: Paper) =>
  String(sizeOf(a)) === String(sizeOf(b)) && sides.every((side) => alike(a[side], b[side]))

/** A paper in words: A4 landscape, 18 18 24 20 mm. */
export const inWords = (p: Paper) =>
  `${p.size}${p.landscape ? ' landscape' : ''}, ${sides.map((side) => p[side]).join(' ')} mm`

const boxes = ['left', 'center', 'right']

/** "a {page}" as the content of a margin box */
function content(text: string): string {
  return text
    .split(/(\{pages?\})/)
    .filter(Boolean)
    .map((part) =>
      part === '{page}'
        ? 'counter(page)'
        : part === '{pages}'
          ? 'counter(pages)'
          : `"${part.replace(/["\\]/g, '\\$&')}"`,
    )
    .join(' ')
}

function margins(text: string, edge: string): string {
  const parts = text.split('|').map((s) => s.trim())
  const at = parts.length === 1 ? [1] : [0, 1, 2]
  return parts.map((p, i) => (p ? `  @${edge}-${boxes[at[i] ?? 2]} { content: ${content(p)} }\n` : '')).join('')
}

/** plain CSS that says what the form says */
export function writePaper(p: Paper): string {
  let css = `@page {
  size: ${p.size}${p.landscape ? ' landscape' : ''};
  margin: ${p.top}mm ${p.right}mm ${p.bottom}mm ${p.left}mm;
`
  css += margins(p.header, 'top') + margins(p.footer, 'bottom') + '}\n'
  if (p.watermark)
    css += `body::after {
  content: "${p.watermark.replace(/["\\]/g, '\\$&')}";
  position: fixed; inset: 0; display: grid; place-content: center; z-index: 1;
  font: bold 90pt sans-serif; color: rgb(0 0 0 / 0.09); transform: rotate(-35deg);
}
`
  return css
}

/** the text that content() was made of */
const textOf = (css: string) =>
  [...css.matchAll(/counter\((pages?)\)|"((?:[^"\\]|\\.)*)"/g)]
    .map(([, counter, text]) => (counter ? `{${counter}}` : text.replace(/\\(.)/g, '$1')))
    .join('')

/** reads what writePaper wrote, as far as the form can show it */
export function readPaper(css: string): Paper {
  const size = /size:\s*([^;]+);/.exec(css)?.[1].trim() ?? 'A4'
  const given = /margin:\s*([^;]+);/.exec(css)?.[1].trim().split(/\s+/).map(parseFloat) ?? []
  const side = (i: number) => given[i] ?? given[i - 2] ?? given[0] ?? 20
  const texts = (edge: string) => {
    const found = boxes.map((b) => {
      const m = new RegExp(`@${edge}-${b} \\{ content: (.*) \\}`).exec(css)
      return m ? textOf(m[1]) : ''
    })
    return found[0] || found[2] ? found.join(' | ').replace(/ {2}/g, ' ').trim() : found[1]
  }
  return {
    size: size.replace(/\s*landscape/, ''),
    landscape: /landscape/.test(size),
    top: side(0),
    right: given[1] ?? side(0),
    bottom: side(2),
    left: given[3] ?? given[1] ?? side(0),
    header: texts('top'),
    footer: texts('bottom'),
    watermark: /content: "((?:[^"\\]|\\.)*)";\n {2}position: fixed/.exec(css)?.[1] ?? '',
  }
}
