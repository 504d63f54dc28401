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
