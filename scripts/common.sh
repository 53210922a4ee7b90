# What ./demo, ./check and ./screenshots share. Sourced, not run.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
export DOTNET_CLI_TELEMETRY_OPTOUT=1 DOTNET_NOLOGO=1

say() { printf '\n== %s\n' "$*"; }

need_sdk() {
  command -v dotnet >/dev/null && dotnet --list-sdks | grep -q '^10\.' || { echo "The .NET 10 SDK is missing. Install it and run this again." >&2; exit 1; }
  command -v npm >/dev/null && [ "$(node -p 'process.versions.node.split(".")[0]')" -ge 20 ] || { echo "Node 20 or newer (with npm) is missing. Install it and run this again." >&2; exit 1; }
}

# need PROGRAM=PACKAGE ...: installs the Debian packages of the programs (or, for a path, files) that aren't there.
need() {
  local missing=() item
  for item in "$@"; do
    case "${item%%=*}" in
      /*) [ -e "${item%%=*}" ] || missing+=("${item#*=}") ;;
      *) command -v "${item%%=*}" >/dev/null || missing+=("${item#*=}") ;;
    esac
  done
  [ ${#missing[@]} -eq 0 ] && return
  local root=()
  if [ "$(id -u)" -ne 0 ]; then
    sudo -n true 2>/dev/null && root=(sudo) || { echo "These packages are missing and this user may not install them: ${missing[*]}. Run: sudo apt-get install ${missing[*]}" >&2; exit 1; }
  fi
  command -v apt-get >/dev/null || { echo "These are missing: ${missing[*]}. Install them and run this again." >&2; exit 1; }
  say "Installing ${missing[*]}"
  "${root[@]}" apt-get update -qq
  DEBIAN_FRONTEND=noninteractive "${root[@]}" apt-get install -y -qq --no-install-recommends "${missing[@]}" >/dev/null
}

need_application() {
  need ffmpeg=ffmpeg pdftocairo=poppler-utils rsvg-convert=librsvg2-bin soffice=libreoffice-impress bwrap=bubblewrap prlimit=util-linux tesseract=tesseract-ocr \
    /usr/share/tesseract-ocr/5/tessdata/eng.traineddata=tesseract-ocr-eng /usr/share/fonts/truetype/noto/NotoSans-Regular.ttf=fonts-noto-core fc-list=fontconfig \
    /usr/share/fonts/truetype/crosextra/Carlito-Regular.ttf=fonts-crosextra-carlito /usr/share/fonts/truetype/crosextra/Caladea-Regular.ttf=fonts-crosextra-caladea \
    /usr/share/fonts/truetype/liberation/LiberationSans-Regular.ttf=fonts-liberation /usr/share/fonts/opentype/noto/NotoSansCJK-Regular.ttc=fonts-noto-cjk \
    /usr/share/fonts/truetype/noto/NotoColorEmoji.ttf=fonts-noto-color-emoji heif-convert=libheif-examples
}
need_demo() { need espeak-ng=espeak-ng /usr/share/hershey-fonts/futural.jhf=hershey-fonts-data; }
need_spoken() { need flite=flite /usr/share/asterisk/sounds/en_US_f_Allison=asterisk-core-sounds-en-g722; }
need_browser() { need chromium=chromium chromedriver=chromium-driver; }
