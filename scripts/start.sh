#!/usr/bin/env bash
# Installs, builds, fills an empty data folder with the demo and serves everything on one port.
set -euo pipefail
cd "$(dirname "$0")/.."
bash scripts/install.sh
newest=$(find web core index.html vite.config.ts package-lock.json -type f -newer dist/web/index.html -print -quit 2>/dev/null || true)
if [ ! -f dist/web/index.html ] || [ -n "$newest" ]; then
  npm run -s build -- --logLevel warn
fi
npm run -s demo:fill
exec npm run -s start
