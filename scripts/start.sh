#!/usr/bin/env bash
# Installs, builds and serves everything on one port; an empty data folder gets the demo projects meanwhile.
set -euo pipefail
cd "$(dirname "$0")/.."
bash scripts/install.sh
newest=$(find web core index.html vite.config.ts package-lock.json -type f -newer dist/web/index.html -print -quit 2>/dev/null || true)
if [ ! -f dist/web/index.html ] || [ -n "$newest" ]; then
  npm run -s build -- --logLevel warn
fi
# Node itself, so that a signal to this process reaches the server.
exec node --import tsx server/main.ts --demo
