#!/usr/bin/env bash
# Prints the path of a Chromium, installing Debian's where none is found.
set -euo pipefail
find_it() { command -v chromium || command -v chromium-browser; }
if ! find_it; then
  { apt-get update && apt-get install -y --no-install-recommends chromium; } >&2
  find_it
fi
