import type { Probed } from '../api'

/** A rectangle on a page: left, top, width and height in px. */
export type Rect = [number, number, number, number]

/** The parts of a box, from the outside: each holds the next. */
export const boxParts = ['margin', 'border', 'padding', 'content'] as const
export type BoxPart = (typeof boxParts)[number]

const grown = ([x, y, w, h]: Rect, [top, right, bottom, left]: number[], by: 1 | -1): Rect => [
  x - by * left,
  y - by * top,
  w + by * (left + right),
  h + by * (top + bottom),
]

/** Where the parts of an element's box lie on the page. Negative margins add nothing. */
export function boxesOf(e: Probed): Record<BoxPart, Rect> {
  const border = e.box as Rect
  const padding = grown(border, e.border, -1)
  return {
    margin: grown(
      border,
      e.margin.map((m) => Math.max(0, m)),
      1,
    ),
    border,
    padding,
    content: grown(padding, e.padding, -1),
  }
}
