#!/usr/bin/env bash
# Builds what is older than its source: bash scripts/build.sh [web|node]...   both, where nothing is named
# web: the pages, in dist/web · node: server and command line, in dist/server.js and dist/clyvo.js
set -euo pipefail
cd "$(dirname "$0")/.."

# Whether a file is there, and nothing it is built from is newer: is_new file source...
is_new() { [ -f "$1" ] && [ -z "$(find "${@:2}" package-lock.json -type f -newer "$1" -print -quit)" ]; }

web() {
  is_new dist/web/index.html web core vite.config.ts scripts/worker-start.ts || npx vite build --logLevel warn
}
# Says nothing but errors: what the command line prints is read by programs.
node() {
  is_new dist/server.js server cli core vite.node.config.ts || npx vite build --config vite.node.config.ts --logLevel error
}

[ $# -gt 0 ] || set -- web node
for part in "$@"; do "$part"; done
