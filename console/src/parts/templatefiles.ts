import type { FileBody } from '../api'

/** a first page that shows how fields come in */
export const emptyTemplate: Record<string, FileBody> = {
  'template.yaml': {
    text: "title: New template\npage: page.html\nstyles: [style.css]\nsample: sample.json\nfilename: '{{.name}}.pdf'\n",
  },
  'page.html': {
    text: `<!DOCTYPE html>
<html lang="en">
<head>
<meta charset="utf-8">
<title>For {{.name}}</title>
<link rel="stylesheet" href="style.css">
</head>
<body>
<h1>Dear {{.name}}</h1>
<p>Write your page here.</p>
</body>
</html>
`,
  },
  'style.css': { text: '@page { size: A4; margin: 25mm 22mm }\nbody { font: 11pt/1.5 sans-serif; color: #222 }\n' },
  'sample.json': { text: '{\n  "name": "Ada Berg"\n}\n' },
}

/** A template of a page that was made elsewhere, with its files: a manifest and an empty sample are added. */
export const templateOf = (title: string, files: Record<string, FileBody>): Record<string, FileBody> => ({
  'template.yaml': {
    text: `title: ${JSON.stringify(title || 'New template')}\npage: page.html\nsample: sample.json\n`,
  },
  'sample.json': { text: '{}\n' },
  ...files,
})

/** the title of a page in HTML */
export const titleOf = (html: string) =>
  new DOMParser()
    .parseFromString(html, 'text/html')
    .title.replace(/{{.*?}}/g, '')
    .trim()

/** the name of a page of the web, or that of its host; empty where the text is no address of one */
export const nameOfAddress = (text: string): string => {
  const address = text.trim()
  if (!/^https?:/i.test(address) || !URL.canParse(address)) return ''
  const { pathname, hostname } = new URL(address)
  const page = pathname.split('/').filter(Boolean).at(-1)
  return page?.replace(/\.[^.]*$/, '') || hostname
}

/** a name that a template can have, made of another */
export const nameFrom = (text: string) =>
  text
    .normalize('NFD')
    .toLowerCase()
    .replace(/[\u0300-\u036f]/g, '')
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 100)

/** the files of a folder by their paths in it; hidden ones are left out */
export async function filesOfFolder(list: File[]): Promise<Record<string, FileBody>> {
  const out: Record<string, FileBody> = {}
  for (const file of list) {
    const path = file.webkitRelativePath.split('/').slice(1).join('/') || file.name
    if (!path.split('/').some((part) => part.startsWith('.'))) out[path] = { base64: await base64(file) }
  }
  return out
}

/** A file as a template keeps it: text where people edit it, else its bytes. */
export async function fileBody(file: File): Promise<FileBody> {
  if (/\.(html?|css|json|ya?ml|svg|txt|md)$/i.test(file.name)) return { text: await file.text() }
  return { base64: await base64(file) }
}

/** A manifest that uses a style sheet, after those it uses already. */
export function withStyle(manifest: string, sheet: string): string {
  if (manifest.includes(sheet)) return manifest
  const list = /^(styles:\s*\[[^\]]*?)\s*\]/m
  if (!list.test(manifest)) return `${manifest.trimEnd()}\nstyles: [${sheet}]\n`.trimStart()
  return manifest.replace(list, (_, held) => `${held}${held.trim().endsWith('[') ? '' : ', '}${sheet}]`)
}

const base64 = (file: File) =>
  new Promise<string>((done, failed) => {
    const reader = new FileReader()
    reader.onload = () => done(String(reader.result).replace(/^[^,]*,/, ''))
    reader.onerror = () => failed(reader.error)
    reader.readAsDataURL(file)
  })
