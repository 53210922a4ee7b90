#!/usr/bin/env bash
# Makes the demo teacher's files from our own drawings. Run again after changing an SVG; needs librsvg2-bin and fonts-noto-core.
set -euo pipefail
cd "$(dirname "$0")"
pdf() { rsvg-convert -f pdf --width 960pt --keep-aspect-ratio -o "$@"; }
pdf arch-slides.pdf 1-why-an-arch-stands.svg 2-beam-and-arch.svg
pdf arch-worksheet.pdf 4-the-line-of-thrust.svg 5-where-the-thrust-goes.svg
pdf domes.pdf 6-domes.svg 7-why-the-foot-opens.svg
rsvg-convert -w 3840 -o parts-of-an-arch.png 3-parts-of-an-arch.svg
