#!/bin/sh
# Makes the user and tells systemd of the service, which is started by who wants it:
# systemctl enable --now olive
set -e
if command -v systemd-sysusers >/dev/null 2>&1; then
  systemd-sysusers olive.conf
elif ! getent passwd olive >/dev/null; then
  useradd --system --home-dir /var/lib/olive --shell /usr/sbin/nologin --comment "Olive Ledger" olive
fi
chgrp olive /etc/olive/olive.yaml
chmod 0640 /etc/olive/olive.yaml # it may hold passwords
if [ -d /run/systemd/system ]; then
  systemctl daemon-reload
  systemctl try-restart olive.service
fi
