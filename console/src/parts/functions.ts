/** the functions of templates, for completion; docs/templates.md tells more */
export const functions: [string, string][] = [
  ['money', '.price or .price "CHF": an amount with its currency'], ['number', '.n or .n 2: a number as the language writes it'], ['percent', '.rate'], ['unit', '.weight "kg"'],
  ['add', 'exact decimal arithmetic'], ['subtract', 'exact decimal arithmetic'], ['multiply', 'exact decimal arithmetic'], ['divide', 'exact decimal arithmetic'], ['round', 'x 2 or x 0 "half-even"'],
  ['discount', '.price 15: what 15 % of it are'], ['priced', '.lines "quantity" "price": the lines with .amount'], ['taxes', '.lines "amount" "tax": one entry for each rate'], ['inWords', '.total: an amount in words'], ['ordinal', '3: 3rd'], ['plural', '.n "berth" "berths"'],
  ['date', '.due, .due "full" or .due "d MMM"'], ['time', '.at'], ['today', 'the date of the run'], ['duration', '95: minutes as 1 h 35 min'],
  ['sum', '.lines "amount"'], ['count', 'of a list'], ['least', 'of a field'], ['greatest', 'of a field'], ['running', 'sums, entry by entry'], ['groupBy', '.lines "kind": .Key and .Entries'], ['sortBy', '.lines "-date" "name"'], ['index', '.list 0: an entry'],
  ['where', '.lines "net" ">" 100'], ['pluck', '.lines "name"'], ['chunk', '.list 24'], ['columns', '.list 3'], ['join', 'a list into text'], ['enumerate', '.names: Ann, Ben and Cy'], ['split', 'text into a list'], ['upper', 'capitals'], ['lower', 'small letters'], ['shorten', '.text 80'],
  ['eq', '.state "paid"'], ['ne', '.state "paid"'], ['gt', '.total 100'], ['ge', '.total 100'], ['lt', '.due today'], ['le', '.due today'], ['or', '.note "–"'], ['and', '.a .b'], ['not', '.a'],
  ['has', '. "note": whether it is there'], ['default', '. "note" "–": what stands for it'], ['choose', '.state "open" "To pay" "Unknown"'],
  ['html', '.text: formatted text, cleaned'], ['markdown', '.text'], ['link', '.address'], ['picture', '.photo'], ['signature', '.hand'], ['asset', '"logo.svg"'],
  ['qr', '.address'], ['barcode', '"ean" .code'], ['bars', '.months "name" "value"'], ['line', '.months "name" "value"'], ['pie', '.parts "name" "value"'], ['sparkline', '.counts'],
  ['range', 'over a list … end'], ['with', 'what is there … end'], ['if', 'a test … end'], ['else', ''], ['end', ''], ['template', 'a block of another file'],
]
