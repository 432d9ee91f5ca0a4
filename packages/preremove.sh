#!/bin/sh
# Stops the service when the package goes, not when another version comes.
set -e
if { [ "$1" = remove ] || [ "$1" = 0 ]; } && [ -d /run/systemd/system ]; then
  systemctl disable --now olive.service
fi
