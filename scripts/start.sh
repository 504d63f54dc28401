#!/usr/bin/env bash
# Installs, builds and serves everything on one port; an empty data folder gets the demo projects meanwhile.
set -euo pipefail
cd "$(dirname "$0")/.."
bash scripts/install.sh
bash scripts/build.sh
# Node itself, so that a signal to this process reaches the server.
exec node dist/server.js --demo
