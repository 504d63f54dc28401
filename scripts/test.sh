#!/usr/bin/env bash
# Everything, or a part of it: bash scripts/test.sh [types|lint|unit|browser|scenes]...
# Ends with one line: N passed, N failed
set -uo pipefail
cd "$(dirname "$0")/.."
parts=("$@")
[ ${#parts[@]} -gt 0 ] || parts=(types lint unit browser)
passed=0
failed=0
logs=$(mktemp -d)
trap 'rm -rf "$logs"' EXIT

# What cannot be installed ends everything.
no_install() {
  cat "$logs/database" 2>/dev/null
  echo "0 passed, 1 failed"
  exit 1
}
# The browser is fetched meanwhile, if it is wanted and not there: both mostly wait for the network.
fetching=
case " ${parts[*]} " in
  *" browser "* | *" scenes "*)
    bash scripts/chromium.sh >"$logs/chromium" 2>&1 &
    fetching=$!
    ;;
esac
bash scripts/install.sh packages || no_install
bash scripts/install.sh database >"$logs/database" 2>&1 &
compiling=$!
bash scripts/install.sh kernels || no_install

# Checks that take one core are made beside the tests, from the time when the database is still being compiled. Each counts as one.
aside=()
begin_aside() {
  for name in "${aside[@]}"; do
    (
      nice -n 19 npm run -s "$name" >"$logs/$name.out" 2>&1
      echo $? >"$logs/$name.status"
    ) &
  done
}
end_aside() {
  wait
  for name in "${aside[@]}"; do
    echo "== $name"
    cat "$logs/$name.out"
    if [ "$(cat "$logs/$name.status")" = 0 ]; then passed=$((passed + 1)); else failed=$((failed + 1)); fi
  done
}
for part in "${parts[@]}"; do
  case "$part" in types | lint) aside+=("$part") ;; esac
done

tests() {
  echo "== $1"
  "${@:2}" 2>&1 | tee "$logs/$1"
  local status=${PIPESTATUS[0]} ok bad
  ok=$(grep -oE '^ *[0-9]+ passing' "$logs/$1" | grep -oE '[0-9]+' | tail -n 1)
  bad=$(grep -oE '^ *[0-9]+ failing' "$logs/$1" | grep -oE '[0-9]+' | tail -n 1)
  passed=$((passed + ${ok:-0}))
  failed=$((failed + ${bad:-0}))
  # A runner that died, or ran nothing, has not passed.
  if [ "$status" -ne 0 ] && [ "${bad:-0}" -eq 0 ]; then failed=$((failed + 1)); fi
  if [ "${ok:-0}" -eq 0 ]; then failed=$((failed + 1)); fi
}

chromium() {
  wait "$fetching" && return
  cat "$logs/chromium"
  echo "Chromium could not be installed"
  return 1
}

begin_aside
wait "$compiling" || no_install
for part in "${parts[@]}"; do
  case "$part" in
    types | lint) ;;
    unit) tests unit npm run -s test:unit ;;
    browser)
      if chromium && bash scripts/build.sh; then tests browser npm run -s test:browser -- ${CI:+--retries 1}; else failed=$((failed + 1)); fi
      ;;
    scenes)
      if chromium && bash scripts/build.sh; then
        tests scenes npx mocha --no-config --import=tsx --timeout 240000 'e2e/scenes*.test.ts'
      else failed=$((failed + 1)); fi
      ;;
    *) echo "Unknown part: $part (types, lint, unit, browser, scenes)"; failed=$((failed + 1)) ;;
  esac
done
end_aside
# What failed, or passed late, stands at the end once more, where it is looked for first.
grep -hE -A3 '(passed at the second try only|failed at both tries)' "$logs"/browser 2>/dev/null
for log in "$logs"/unit "$logs"/browser "$logs"/scenes; do
  if [ -f "$log" ]; then sed -n '/^ *[0-9][0-9]* failing/,$p' "$log"; fi
done
echo "$passed passed, $failed failed"
[ "$failed" -eq 0 ]
