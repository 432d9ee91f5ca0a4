/** A stretch of text on a page, with its box in parts of the page: left, top, width, height. */
export interface Stretch {
  text: string
  box: [number, number, number, number]
  ends: boolean // the line ends after it
  before?: (n: number) => number // the part of its width that its first characters take; each the same if not given
}

/** A place where text was found; it may go over several stretches. */
export interface Hit {
  page: number
  boxes: [number, number, number, number][]
}

/** Folds what readers take for the same: case, accents and kinds of space. */
const folded = (s: string) =>
  [...s].map((c) => c.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase().replace(/\s/u, ' ')[0] ?? c)

/** Finds text on a page. A space in it stands for any number of spaces, and for the end of a line. */
export function findOn(page: number, stretches: Stretch[], wanted: string): Hit[] {
  const needle = folded(wanted.trim().replace(/\s+/gu, ' ')).join('')
  if (!needle) return []
  const text: string[] = []
  const at: { stretch: number; n: number }[] = [] // of each character: how many stand before it in its stretch
  stretches.forEach((s, stretch) => {
    const letters = folded(s.text)
    letters.forEach((c, i) => {
      if (c === ' ' && text.at(-1) === ' ') return
      text.push(c)
      at.push({ stretch, n: i })
    })
    if (s.ends && text.length && text.at(-1) !== ' ') {
      text.push(' ')
      at.push({ stretch, n: letters.length })
    }
  })
  const whole = text.join('')
  const hits: Hit[] = []
  for (let i = whole.indexOf(needle); i >= 0; i = whole.indexOf(needle, i + needle.length)) {
    hits.push({ page, boxes: boxesOf(stretches, at.slice(i, i + needle.length)) })
  }
  return hits
}

/** The boxes of characters that follow each other, one for each stretch. */
function boxesOf(stretches: Stretch[], letters: { stretch: number; n: number }[]): Hit['boxes'] {
  const boxes: Hit['boxes'] = []
  for (const stretch of new Set(letters.map((l) => l.stretch))) {
    const { text, box, before } = stretches[stretch]
    const length = Math.max([...text].length, 1)
    const edge = before ?? ((n: number) => n / length)
    const own = letters.filter((l) => l.stretch === stretch)
    const from = edge(own[0].n)
    const to = edge(Math.min(own.at(-1)!.n + 1, length))
    if (to > from) boxes.push([box[0] + from * box[2], box[1], (to - from) * box[2], box[3]])
  }
  return boxes
}
