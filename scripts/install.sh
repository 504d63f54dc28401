#!/usr/bin/env bash
# Installs the packages of the lock file when they are missing or older than it, and builds what is built from source.
set -euo pipefail
cd "$(dirname "$0")/.."

# The database's package compiles it, unless there is one for this machine. With few optimisations that takes a third of the
# time, and no query of ours takes long enough to notice.
database() {
  CFLAGS=-O1 CXXFLAGS=-O1 npm rebuild better-sqlite3
  node -e "new (require('better-sqlite3'))(':memory:')"
}

stamp=node_modules/.installed-from
compiling=
if [ ! -f "$stamp" ] || ! cmp -s package-lock.json "$stamp"; then
  echo "Installing packages (the database is compiled once, this takes a few minutes)" >&2
  npm ci --no-audit --no-fund --ignore-scripts
  database &
  compiling=$!
fi
# The kernels of core are built from source: new ones, or ones that are older than it. Meanwhile the database is compiled.
built=core/kernels/built/.built
if [ ! -f "$built" ] || [ -n "$(find core/kernels/assembly scripts/kernels.ts package-lock.json -type f -newer "$built" -print -quit)" ]; then
  npm run -s kernels
  touch "$built"
fi
if [ -n "$compiling" ]; then
  wait "$compiling"
  cp package-lock.json "$stamp"
fi
