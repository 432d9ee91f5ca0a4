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
  let css = `@page {\n  size: ${p.size}${p.landscape ? ' landscape' : ''};\n  margin: ${p.top}mm ${p.right}mm ${p.bottom}mm ${p.left}mm;\n`
  css += margins(p.header, 'top') + margins(p.footer, 'bottom') + '}\n'
  if (p.watermark)
    css += `body::after {\n  content: "${p.watermark.replace(/["\\]/g, '\\$&')}";\n  position: fixed; inset: 0; display: grid; place-content: center; z-index: 1;\n  font: bold 90pt sans-serif; color: rgb(0 0 0 / 0.09); transform: rotate(-35deg);\n}\n`
  return css
}

/** reads what writePaper wrote, as far as the form can show it */
export function readPaper(css: string): Paper {
  const size = /size:\s*([^;]+);/.exec(css)?.[1].trim() ?? 'A4'
  const mm = /margin:\s*([^;]+);/.exec(css)?.[1].trim().split(/\s+/).map(parseFloat) ?? []
  const side = (i: number) => mm[i] ?? mm[i - 2] ?? mm[0] ?? 20
  const texts = (edge: string) => {
    const found = boxes.map((b) => {
      const m = new RegExp(`@${edge}-${b} \\{ content: (.*) \\}`).exec(css)
      return m
        ? m[1]
            .replace(/counter\(page\)/g, '{page}')
            .replace(/counter\(pages\)/g, '{pages}')
            .replace(/"((?:[^"\\]|\\.)*)"/g, (_, s) => s.replace(/\\(.)/g, '$1'))
            .replace(/(\}) (?=\S)|(\S) (?=\{)/g, (x) => x.trim())
        : ''
    })
    return found[0] || found[2] ? found.join(' | ') : found[1]
  }
  return {
    size: size.replace(/\s*landscape/, ''),
    landscape: /landscape/.test(size),
    top: side(0),
    right: mm[1] ?? side(0),
    bottom: side(2),
    left: mm[3] ?? mm[1] ?? side(0),
    header: texts('top'),
    footer: texts('bottom'),
    watermark: /content: "((?:[^"\\]|\\.)*)";\n {2}position: fixed/.exec(css)?.[1] ?? '',
  }
}
