#!/usr/bin/env bash
# Install the Debian packages that are missing. Usage: scripts/system-packages.sh demo|test
set -eu
missing=()
need() { command -v "$1" >/dev/null 2>&1 || missing+=("$2"); }
need ffmpeg ffmpeg
need dvdauthor dvdauthor
need genisoimage genisoimage
[ -e /usr/share/fonts/truetype/dejavu/DejaVuSans.ttf ] || missing+=(fonts-dejavu-core)
if [ "${1:-demo}" = test ]; then
  need chromium chromium
  # real file systems of sticks and cards, as programs of their own
  need mkfs.vfat dosfstools
  need fusefat fusefat
  need mkfs.exfat exfatprogs
  need mount.exfat-fuse exfat-fuse
fi
python3 -c 'import ensurepip' 2>/dev/null || missing+=(python3-venv)
[ ${#missing[@]} -eq 0 ] && exit 0

install="apt-get install -y --no-install-recommends ${missing[*]}"
if [ "$(id -u)" -eq 0 ]; then
  as_root=""
elif sudo -n true 2>/dev/null; then
  as_root="sudo -n"
else
  echo "Some programs are missing. Run this line, then start again:" >&2
  echo "  sudo apt-get update && sudo $install" >&2
  exit 1
fi
echo "Installing ${missing[*]} …"
export DEBIAN_FRONTEND=noninteractive
$as_root apt-get update -q >/dev/null
$as_root env DEBIAN_FRONTEND=noninteractive $install >/dev/null
