import { HighlightStyle } from '@codemirror/language'
import { tags } from '@lezer/highlight'

/** Colours of source in the dark, each with a contrast of 4.5 and more on the editor's line. */
export const darkHighlighting = HighlightStyle.define([
  { tag: [tags.comment, tags.meta], color: '#a7ad98' },
  { tag: [tags.keyword, tags.operatorKeyword, tags.modifier, tags.unit], color: '#d3a6e6' },
  { tag: [tags.tagName, tags.typeName, tags.className], color: '#8fd0b4' },
  { tag: [tags.attributeName, tags.propertyName, tags.variableName, tags.labelName], color: '#9cc4ea' },
  { tag: [tags.string, tags.attributeValue, tags.regexp, tags.color], color: '#e8b98c' },
  { tag: [tags.number, tags.bool, tags.null, tags.atom], color: '#e6d07a' },
  { tag: tags.invalid, color: '#ff9d8f' },
])
