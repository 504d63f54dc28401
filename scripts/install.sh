#!/usr/bin/env bash
# Installs the packages of the lock file when they are missing or older than it.
set -euo pipefail
cd "$(dirname "$0")/.."
stamp=node_modules/.installed-from
if [ ! -f "$stamp" ] || ! cmp -s package-lock.json "$stamp"; then
  echo "Installing packages (the database is compiled once, this takes a few minutes)" >&2
  npm ci --no-audit --no-fund
  # Some npm versions leave install scripts out until they are allowed; the database needs its own.
  node -e "new (require('better-sqlite3'))(':memory:')" 2>/dev/null || npm rebuild better-sqlite3
  cp package-lock.json "$stamp"
fi
# The kernels of core are built from source: new ones, or ones that are older than it.
built=core/kernels/built/.built
if [ ! -f "$built" ] || [ -n "$(find core/kernels/assembly scripts/kernels.ts package-lock.json -type f -newer "$built" -print -quit)" ]; then
  npm run -s kernels
  touch "$built"
fi
