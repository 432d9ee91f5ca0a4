import { describe, expect, it } from 'vitest'
import { fileBody, filesOfFolder, nameFrom, nameOfAddress, templateOf, titleOf, withStyle } from './templatefiles'

describe('names of templates', () => {
  it.each([
    ['Berth card', 'berth-card'],
    ['  Überfahrt & Öl! ', 'uberfahrt-ol'],
    ['---', ''],
    ['x'.repeat(200), 'x'.repeat(100)],
  ])('are made of %j', (text, want) => expect(nameFrom(text)).toBe(want))
})

describe('a style sheet', () => {
  it.each([
    ['none', 'title: A\n', 'title: A\nstyles: [paper.css]\n'],
    ['an empty list', 'styles: []\n', 'styles: [paper.css]\n'],
    ['a list', 'styles: [style.css]\ntitle: A\n', 'styles: [style.css, paper.css]\ntitle: A\n'],
    ['a list that has it', 'styles: [paper.css]\n', 'styles: [paper.css]\n'],
    ['no manifest', '', 'styles: [paper.css]\n'],
  ])('is added to %s', (_, manifest, want) => expect(withStyle(manifest, 'paper.css')).toBe(want))
})

describe('a page made elsewhere', () => {
  it.each([
    ['https://quay.example/docs/card.html?x=1', 'card'],
    [' http://quay.example:8080/docs/ ', 'docs'],
    ['https://quay.example', 'quay.example'],
    ['https://quay.example/.html', 'quay.example'],
    ['http://[', ''],
    ['http://', ''],
    ['file:///etc/hosts', ''],
    ['card.html', ''],
    ['', ''],
  ])('at %j is called so', (address, want) => expect(nameOfAddress(address)).toBe(want))
  it('becomes a template of its title', () => {
    expect(titleOf('<!DOCTYPE html><title> Berth {{.number}} card </title><p>x')).toBe('Berth  card')
    expect(titleOf('no page')).toBe('')
    const files = templateOf('A: "b"', { 'page.html': { text: '<p>' } })
    expect(files['template.yaml'].text).toBe('title: "A: \\"b\\""\npage: page.html\nsample: sample.json\n')
    expect(files['page.html'].text).toBe('<p>')
    expect(templateOf('', {})['template.yaml'].text).toContain('title: "New template"')
  })
})

describe('files', () => {
  it('that people edit are text, others are bytes', async () => {
    expect(await fileBody(new File(['<p>é'], 'A.HTML'))).toEqual({ text: '<p>é' })
    expect(await fileBody(new File([new Uint8Array([0, 255, 16])], 'logo.png'))).toEqual({ base64: 'AP8Q' })
  })
  it('of a folder go by their paths in it, without hidden ones', async () => {
    const inFolder = (path: string) =>
      Object.assign(new File(['x'], path.split('/').pop()!), { webkitRelativePath: path })
    const list = ['card/page.html', 'card/fonts/a.ttf', 'card/.git/config', 'card/.DS_Store'].map(inFolder)
    // what the browser sets cannot be set here
    list.forEach((f, i) =>
      Object.defineProperty(f, 'webkitRelativePath', {
        value: ['card/page.html', 'card/fonts/a.ttf', 'card/.git/config', 'card/.DS_Store'][i],
      }),
    )
    expect(Object.keys(await filesOfFolder(list))).toEqual(['page.html', 'fonts/a.ttf'])
  })
})
