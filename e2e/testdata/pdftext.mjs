// Prints the text of a PDF's pages as PDF.js tells it: node pdftext.mjs FILE
import { readFileSync } from 'node:fs'
import { getDocument } from '../../console/node_modules/pdfjs-dist/legacy/build/pdf.mjs'

const data = new Uint8Array(readFileSync(process.argv[2]))
const doc = await getDocument({ data, verbosity: 0 }).promise
for (let n = 1; n <= doc.numPages; n++) {
  const { items } = await (await doc.getPage(n)).getTextContent()
  console.log(items.map((item) => item.str + (item.hasEOL ? '\n' : '')).join(''))
}
