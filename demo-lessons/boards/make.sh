#!/usr/bin/env bash
# Makes the demo teacher's files from our own drawings. Run again after changing an SVG; needs librsvg2-bin and fonts-noto-core.
set -euo pipefail
cd "$(dirname "$0")"
pdf() { rsvg-convert -f pdf --width 960pt --keep-aspect-ratio -o "$@"; }
pdf arch-slides.pdf 1-why-an-arch-stands.svg 2-beam-and-arch.svg
pdf arch-worksheet.pdf 4-the-line-of-thrust.svg 5-where-the-thrust-goes.svg
pdf domes.pdf 6-domes.svg 7-why-the-foot-opens.svg
pdf bridges.pdf 10-why-bridges-are-curved.svg 11-three-ways-across.svg
rsvg-convert -w 3840 -o parts-of-an-arch.png 3-parts-of-an-arch.svg
# The deck of the second lesson, and a page as a phone would photograph it: askew, on a table, in the shade. Needs imagemagick.
node make-deck.mjs
node make-formula.mjs
rsvg-convert -w 1654 -o page.png 9-workbook-page.svg
convert page.png -background '#5a4d42' -bordercolor '#5a4d42' -border 90x110 -rotate 2.4 +repage \
  \( -size 1900x2700 gradient:'#ffffff'-'#a9a29a' \) -compose multiply -gravity center -composite -quality 86 workbook-page.jpg
rm page.png
