#!/bin/bash
# The window driven as a person would, under Xvfb: window.sh TOOL FOLDER X Y X Y, the pixels of a lamp and of an
# object. Prints what has come of each step.
tool=$1
cd "$2" || exit 1
"$tool" view quay.toml --program p/per-fragment.toml 2>view.err &
viewer=$!
# Asks again and again, ten seconds at most.
until_so() {
  for _ in $(seq 100); do
    if eval "$1"; then return 0; fi
    sleep 0.1
  done
  return 1
}
title() { xdotool getwindowname "$window" 2>/dev/null; }
until_so 'window=$(xdotool search --name "^Yurvo - " 2>/dev/null | tail -1); [ -n "$window" ]' || { echo "no window"; cat view.err; exit 1; }
xdotool windowfocus "$window"
until_so 'title | grep -q -- "- right$"' && echo "right"
cp p/per-fragment.frag right.frag
sed -i 's|return 1.0 / (d \* d);|return 1.0 / d;|' p/per-fragment.frag
until_so 'title | grep -q "falloff-not-squared"' && echo "mistake"
echo "no shader" >p/per-fragment.frag
until_so 'title | grep -q "per-fragment.frag:"' && echo "broken"
cp right.frag p/per-fragment.frag
until_so 'title | grep -q -- "- right$"' && echo "right again"
xdotool mousemove "$3" "$4" mousedown 1
sleep 0.3
for _ in $(seq 10); do
  xdotool mousemove_relative 6 3
  sleep 0.05
done
sleep 0.3
xdotool mouseup 1
until_so 'title | grep -q "quay.toml \*"' && echo "dragged"
xdotool key ctrl+s
until_so '! title | grep -q "quay.toml \*"' && echo "saved"
cp quay.toml dragged.toml
xdotool key 2
until_so 'title | grep -q "quay.toml \*"' && echo "toggled"
xdotool key ctrl+s
until_so 'grep -q "rate = \"vertex\"" quay.toml' && echo "rate saved"
xdotool key ctrl+z
until_so 'title | grep -q "quay.toml \*"' && echo "undone"
# The panel `objects` by its tab, the quay by a click: its square stands where it is, and is dragged.
click() {
  xdotool mousemove "$1" "$2"
  sleep 0.2
  xdotool mousedown 1
  sleep 0.1
  xdotool mouseup 1
  sleep 0.3
}
click 975 69
click 300 500
cp quay.toml before.toml
xdotool mousemove "$5" "$6" mousedown 1
sleep 0.3
for _ in $(seq 10); do
  xdotool mousemove_relative 5 2
  sleep 0.05
done
sleep 0.3
xdotool mouseup 1
until_so 'title | grep -q "quay.toml \*"' && echo "object dragged"
xdotool key ctrl+s
until_so 'grep -A5 "objects" quay.toml | grep -q position' && echo "object saved"
# A key held as long as a hand does.
press() {
  xdotool keydown "$1"
  sleep 0.15
  xdotool keyup "$1"
}
# A machine that is busy may not have drawn the field yet, or miss a letter: then once more, with more patience.
for patience in 0.5 2 5; do
  xdotool key ctrl+shift+s
  sleep $patience
  xdotool keydown ctrl
  press a
  xdotool keyup ctrl
  sleep 0.2
  xdotool type --delay 60 other.toml
  sleep $patience
  press Return
  until_so '[ -s other.toml ]' && break
done
[ -s other.toml ] && echo "saved as another"
until_so 'title | grep -q "other.toml"' && echo "renamed"
xdotool key ctrl+q
wait $viewer
echo "status $?"
