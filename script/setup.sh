# Sourced by the scripts: .venv with pinned packages, and the system libraries the toolkit needs.
# make_venv  makes .venv; setup_venv LOCK...  installs each pinned list into it once; setup_system PKG...  names or
# installs.

here="$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)"
venv="$here/.venv"

say() { printf '%s\n' "$*" >&2; }

find_python() {
  for candidate in python3.13 python3.12 python3.11 python3; do
    if command -v "$candidate" >/dev/null 2>&1 &&
      "$candidate" -c 'import sys; sys.exit(sys.version_info < (3, 11))' 2>/dev/null; then
      command -v "$candidate"
      return
    fi
  done
  say "Python 3.11 or newer is needed: sudo apt-get install python3 python3-venv"
  return 1
}

make_venv() {
  local python
  if [ ! -x "$venv/bin/python" ] || ! "$venv/bin/python" -c 'pass' 2>/dev/null; then
    python="$(find_python)" || return 1
    say "Setting up .venv (once)"
    rm -rf "$venv"
    if ! "$python" -m venv "$venv" 2>/dev/null; then
      rm -rf "$venv"
      setup_system python3-venv
      "$python" -m venv "$venv" || return 1
    fi
  fi
}

setup_venv() {
  local lock stamp
  make_venv || return 1
  for lock in "$@"; do
    stamp="$venv/.installed-$lock"
    if ! cmp -s "$here/requirements/$lock.txt" "$stamp"; then
      say "Installing pinned packages ($lock)"
      "$venv/bin/python" -m pip install --quiet --disable-pip-version-check --require-hashes --no-deps \
        -r "$here/requirements/$lock.txt" || return 1
      cp "$here/requirements/$lock.txt" "$stamp"
    fi
  done
  if [ ! -f "$venv/.installed-glasscap" ]; then
    # A path file rather than an editable install: nothing to build, nothing to fetch.
    "$venv/bin/python" - "$here/src" <<'PY'
import pathlib, sys, sysconfig
pathlib.Path(sysconfig.get_paths()["purelib"], "glasscap-src.pth").write_text(sys.argv[1] + "\n")
PY
    printf '#!/bin/sh\nexec "%s/bin/python" -m glasscap "$@"\n' "$venv" >"$venv/bin/glasscap"
    chmod +x "$venv/bin/glasscap"
    touch "$venv/.installed-glasscap"
  fi
  # As an installer does: where Python is told to write no bytecode, each start would compile all anew.
  "$venv/bin/python" -m compileall -q "$here/src" >&2 || true
}

setup_system() {
  local missing=() package
  for package in "$@"; do
    dpkg-query -W -f '${Status}' "$package" 2>/dev/null | grep -q 'ok installed' || missing+=("$package")
  done
  [ ${#missing[@]} -eq 0 ] && return 0
  if ! command -v apt-get >/dev/null 2>&1; then
    say "Missing system packages (Debian names): ${missing[*]}"
    return 1
  fi
  if [ "$(id -u)" = 0 ]; then
    say "Installing system packages: ${missing[*]}"
    { apt-get update -qq && DEBIAN_FRONTEND=noninteractive \
      apt-get install -y -qq --no-install-recommends "${missing[@]}"; } >/dev/null 2>&1 && return 0
  elif sudo -n true 2>/dev/null; then
    say "Installing system packages: ${missing[*]}"
    { sudo apt-get update -qq && sudo DEBIAN_FRONTEND=noninteractive \
      apt-get install -y -qq --no-install-recommends "${missing[@]}"; } >/dev/null 2>&1 && return 0
  fi
  say "Missing system packages; run: sudo apt-get install --no-install-recommends ${missing[*]}"
  return 1
}

glib_package() {
  # Renamed in newer releases.
  if apt-cache show libglib2.0-0t64 >/dev/null 2>&1; then echo libglib2.0-0t64; else echo libglib2.0-0; fi
}

window_packages() {
  echo "$(glib_package)" libgl1 libegl1 libfontconfig1 libdbus-1-3 libxkbcommon0 fontconfig libxcb-cursor0 libxcb-icccm4 \
    libxcb-keysyms1 libxcb-shape0 libxcb-xkb1 libxkbcommon-x11-0
}
