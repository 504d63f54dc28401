#!/usr/bin/env bash
# Prints the path of a Chromium, installing Debian's where none is found. The one without windows of its own comes first:
# a page in it takes half the work of one in the full browser, which keeps pages of its own behind it.
set -euo pipefail
find_it() { command -v chromium-headless-shell || command -v chromium || command -v chromium-browser; }
install() { apt-get install -y --no-install-recommends "$1"; }
if ! find_it; then
  { apt-get update && { install chromium-headless-shell || install chromium; }; } >&2
  find_it
fi
