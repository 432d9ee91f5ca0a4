#!/bin/sh
# Starts the service with the demo loaded, renders the demo's documents, and
# stays up until Ctrl-C. A second start keeps what is there.
set -eu
cd "$(dirname "$0")/.."
data=data/demo
listen=${OLIVE_LISTEN:-127.0.0.1:8470}
mkdir -p "$data"
# a stand-in takes the demo's mails, so that nothing leaves this machine
bin/olive stand-in mail --to "$data/mails" >"$data/mail.log" 2>&1 &
mail=$!
bin/olive serve --data "$data" --listen "$listen" --mail smtp+plain://127.0.0.1:8471 --mail-from "Harbour office <office@quay-lantern.example>" --deliver-folder "$data/delivered" >"$data/service.log" 2>&1 &
service=$!
trap 'kill $service $mail 2>/dev/null; wait $service $mail 2>/dev/null; exit 0' INT TERM
until grep -q "is ready" "$data/service.log"; do
  kill -0 $service 2>/dev/null || { cat "$data/service.log"; exit 1; }
  sleep 0.2
done
remote="--server http://$listen --data $data"
if [ ! -f "$data/loaded" ]; then
  for t in mooring-invoice course-certificate season-report; do bin/olive template push demo/templates/$t --note "as shipped" $remote; done
  for r in invoices certificates season; do bin/olive record-set import demo/records/$r.json $remote; done
  bin/olive series add documents --pattern 'D-{year}-{number:5}' $remote
  bin/olive batch start mooring-invoice --set 1 --series documents --watch $remote
  bin/olive document make course-certificate --set 2 --records 1,2,3 --draft $remote
  bin/olive delivery send 1 --by mail --to anna@boats.example --subject 'Invoice {{.number}}' --body 'Dear {{.customer.name}}, your invoice is attached.' $remote
  bin/olive share make 2 $remote
  bin/olive ledger verify $remote
  touch "$data/loaded"
fi
bin/olive render demo/templates/mooring-invoice --records demo/records/invoices.json --to demo-out/invoices
bin/olive render demo/templates/course-certificate --records demo/records/certificates.json --to demo-out/certificates
bin/olive render demo/templates/season-report --records demo/records/season.json --to demo-out/report
echo
echo "  Console:  http://$listen"
sed -n 's/^email: /  Email:    /p; s/^password: /  Password: /p' "$data/first-login.txt"
echo "  PDFs:     demo-out/"
echo "  Mails:    $data/mails"
echo "  API:      http://$listen/api/v1/openapi.json"
echo "  Ctrl-C stops the service; the next start keeps its data."
wait $service
