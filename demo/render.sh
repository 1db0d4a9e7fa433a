#!/bin/sh
# Renders the demo scenes and their mattes: demo/render.sh OUT
set -eu
out="$(mkdir -p "$1" && cd "$1" && pwd)"
cd "$(dirname "$0")/scenes"

# shot SCENE OUT [more options]
shot() {
    scene="$1"
    picture="$2"
    shift 2
    povray "+I$scene.pov" +W2400 +H1600 "+O$out/$picture.png" +FN16 -D -V Output_Alpha=Off File_Gamma=srgb "$@" 2>/dev/null
}

shot tower-dusk tower +A0.1 +R3
shot bay-gradient bay +A0.12 +R3
# Mattes (see station.inc): 1 the sky, 2 the tower, 3 the ground.
shot tower-dusk tower-matte1 +A0.1 +R4 Declare=Matte=1
shot tower-dusk tower-matte2 +A0.1 +R4 Declare=Matte=2
shot bay-gradient bay-matte1 +A0.1 +R4 Declare=Matte=1
shot bay-gradient bay-matte3 +A0.1 +R4 Declare=Matte=3
# Mattes (see still.inc): of each still life what its first lines say.
shot chart-table chart-table +A0.2 +R2
shot chart-table chart-table-bars +A0.2 +R2 Declare=Bars=1
shot chart-table chart-table-matte1 +A0.1 +R4 Declare=Matte=1
shot boathouse boathouse +A0.2 +R2
shot figurehead figurehead +A0.2 +R2
for matte in 1 2 3; do shot figurehead figurehead-matte$matte +A0.1 +R4 Declare=Matte=$matte; done
shot green-sweep lantern +A0.2 +R2 Declare=Screen=0
shot green-sweep lantern-green +A0.2 +R2 Declare=Screen=1
shot green-sweep lantern-matte1 +A0.1 +R4 Declare=Matte=1
shot harmonium harmonium +A0.3 +R2
for matte in 1 2; do shot harmonium harmonium-matte$matte +A0.1 +R4 Declare=Matte=$matte; done
shot headlands headlands +A0.2 +R2
# How far away, linear, and the near shore.
shot headlands headlands-depth +A0.1 +R3 Declare=Depth=1 File_Gamma=1.0
shot headlands headlands-matte1 +A0.1 +R4 Declare=Matte=1
