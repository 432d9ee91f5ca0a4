#!/bin/sh
# Makes the pictures of PDF files in docs/screenshots from the demo data, with nothing but
# olive and pdftoppm. Run it from the top of the clone, after make build.
set -eu
out=docs/screenshots
d=$(mktemp -d)
trap 'rm -rf "$d"' EXIT
olive=bin/olive

# page FILE.pdf NUMBER NAME DPI: one page as a picture
page() { pdftoppm -r "$4" -f "$2" -l "$2" -png -singlefile "$1" "$out/$3"; }

# sheet NAME HEIGHT FILE.pdf=PAGE…: pages side by side
sheet() {
  name=$1 height=$2
  shift 2
  html="$d/$name.html"
  echo "<!DOCTYPE html><html lang=en><title>$name</title><style>@page{size:1280px 800px;margin:0}body{margin:0;background:#c9d3da}main{height:800px;display:flex;flex-wrap:wrap;gap:24px;align-content:center;justify-content:center;align-items:center}img{height:${height}px;box-shadow:0 1px 6px #0004}</style><main>" > "$html"
  for source in "$@"; do
    file=${source%=*} n=${source##*=}
    picture="$name-$(basename "$file" .pdf)-$n"
    pdftoppm -r 110 -f "$n" -l "$n" -png -singlefile "$file" "$d/$picture"
    echo "<img alt='' src='$picture.png'>" >> "$html"
  done
  $olive render "$html" -o "$d/$name.pdf" -q
  pdftoppm -r 96 -png -singlefile "$d/$name.pdf" "$out/$name"
}

$olive render demo/templates/mooring-invoice --records demo/records/invoices.json --to "$d/invoices" -q
$olive render demo/templates/course-certificate --records demo/records/certificates.json --only 1 -o "$d/certificate.pdf" -q
$olive render demo/templates/season-report -o "$d/report.pdf" -q
$olive render demo/pages/handbook.html -o "$d/handbook.pdf" -q
page "$d/invoices/QL-2026-0001.pdf" 1 pdf-invoice 90
page "$d/certificate.pdf" 1 pdf-certificate 80
page "$d/report.pdf" 2 pdf-report 90
sheet pdf-carried-forward 740 "$d/invoices/QL-2026-0046.pdf=1" "$d/invoices/QL-2026-0046.pdf=2"
sheet pdf-handbook 740 "$d/handbook.pdf=2" "$d/handbook.pdf=3"

$olive bind demo/pages/handbook.html "$d/invoices/QL-2026-0046.pdf" "$d/certificate.pdf" -o "$d/papers.pdf" --contents "Papers of the season" --number "{page} / {pages}" > /dev/null
$olive stamp "$d/papers.pdf" -o "$d/bound.pdf" --text COPY > /dev/null
sheet pdf-bound 370 "$d/bound.pdf=1" "$d/bound.pdf=2" "$d/bound.pdf=3" "$d/bound.pdf=8" "$d/bound.pdf=9" "$d/bound.pdf=10"

for s in invoice certificate report letter labels; do
  $olive new "$d/new/$s" --from $s > /dev/null
  $olive render "$d/new/$s" -o "$d/starter-$s.pdf" -q
done
sheet pdf-starters 370 "$d/starter-certificate.pdf=1" "$d/starter-invoice.pdf=1" "$d/starter-letter.pdf=1" "$d/starter-report.pdf=3" "$d/starter-labels.pdf=1"

$olive render demo/pages/notice.html -o "$d/notice.pdf" --proof "$d/proof.pdf" -q
sheet pdf-proof 540 "$d/proof.pdf=1" "$d/proof.pdf=2" "$d/proof.pdf=3"

# a run in which two records fail: its report, as a page of its own
cp -r demo/templates/mooring-invoice "$d/mooring-invoice"
sed '0,/"date": "[^"]*"/s//"date": "next week"/; 0,/"street"/s//"strasse"/' demo/records/invoices.json > "$d/invoices.json"
top=$PWD
(cd "$d" && "$top/$olive" render mooring-invoice --records invoices.json --only 1-14 --to run --report run.html -q) || true
$olive render "$d/run.html" -o "$d/run.pdf" --paper "1280px 800px" --margins "20px 30px" -q
pdftoppm -r 96 -f 1 -l 1 -png -singlefile "$d/run.pdf" "$out/run-report"
