#!/bin/sh
# Installs what the demo or the tests need from Debian's packages, when it is
# missing.
set -eu
want="mariadbd:mariadb-server"
if [ "${1:-}" = test ]; then
  want="$want chromium:chromium curl:curl pdftotext:poppler-utils openssl:openssl python3:python3 qpdf:qpdf rsync:rsync lsof:lsof socat:socat mutool:mupdf-tools softhsm2-util:softhsm2 pkcs11-tool:opensc"
fi
missing=""
for pair in $want; do
  command -v "${pair%%:*}" >/dev/null 2>&1 || [ -x "/usr/sbin/${pair%%:*}" ] || missing="$missing ${pair#*:}"
done
if [ "${1:-}" = test ] && ! ls /usr/lib/galera/libgalera_smm.so >/dev/null 2>&1; then
  missing="$missing galera-4"
fi
if [ "${1:-}" = test ] && [ ! -f /usr/share/unicode/BidiTest.txt ]; then
  missing="$missing unicode-data"
fi
[ -z "$missing" ] && exit 0
echo "installing$missing …"
sudo=""
[ "$(id -u)" = 0 ] || sudo=sudo
$sudo apt-get update -qq
# no service of the distribution's own is started: we run a private server
printf '#!/bin/sh\nexit 101\n' | $sudo tee /usr/sbin/policy-rc.d >/dev/null
$sudo chmod +x /usr/sbin/policy-rc.d
DEBIAN_FRONTEND=noninteractive $sudo apt-get install -y -qq --no-install-recommends $missing >/dev/null
$sudo rm -f /usr/sbin/policy-rc.d
