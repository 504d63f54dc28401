#!/usr/bin/env bash
# Installs the packages of the lock file when they are missing or older than it, and builds what is built from source:
# bash scripts/install.sh [packages|database|kernels]...   all of it, where nothing is named
set -euo pipefail
cd "$(dirname "$0")/.."

packages() {
  local stamp=node_modules/.installed-from
  if [ -f "$stamp" ] && cmp -s package-lock.json "$stamp"; then return; fi
  echo "Installing packages (the database is compiled once, this takes a few minutes)" >&2
  npm ci --no-audit --no-fund --ignore-scripts
  cp package-lock.json "$stamp"
}

# The database's package compiles it, unless there is one for this machine. With few optimisations that takes a third of the
# time, and no query of ours takes long enough to notice; with none half of that, where it is for one run of tests.
database() {
  local opened="new (require('better-sqlite3'))(':memory:')"
  if node -e "$opened" 2>/dev/null; then return; fi
  local level=-O1
  [ -z "${CI:-}" ] || level=-O0
  CFLAGS=$level CXXFLAGS=$level JOBS=2 npm rebuild better-sqlite3
  node -e "$opened"
}

# The kernels of core are built from source: new ones, or ones that are older than it.
kernels() {
  local built=core/kernels/built/.built
  if [ -f "$built" ] && [ -z "$(find core/kernels/assembly scripts/kernels.ts package-lock.json -type f -newer "$built" -print -quit)" ]; then
    return
  fi
  npm run -s kernels
  touch "$built"
}

if [ $# -gt 0 ]; then
  for part in "$@"; do "$part"; done
  exit
fi
packages
database &
compiling=$!
kernels
wait "$compiling"
