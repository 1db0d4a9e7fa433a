// Headlands along the coast, one behind the other, wind-bent trees on the near shore. The air is clear; the haze is put
// in afterwards, by the distance: Declare=Depth=1 renders that, from 0 at the eye to 1 at 1500 units, and
// Declare=Matte=1 the near shore with its trees.
#version 3.7;
global_settings { assumed_gamma 1.0 }
#ifndef (Depth) #declare Depth = 0; #end
#ifndef (Matte) #declare Matte = 0; #end
#include "functions.inc"

#declare Eye = <0, 9, -40>;
camera { perspective location Eye look_at <6, 10.5, 60> angle 52 right x*image_width/image_height }

#declare DepthTexture = texture {
  pigment {
    function { min(1, sqrt(pow(x, 2) + pow(y - 9, 2) + pow(z + 40, 2))/1500) }
    color_map { [0 rgb 0] [1 rgb 1] }
  }
  finish { emission 1 diffuse 0 ambient 0 }
}
// What is near is white in the matte, all else black.
#macro Looks(Own, Near)
  #if (Depth) texture { DepthTexture }
  #else #if (Matte) texture { pigment { rgb Near } finish { emission 1 diffuse 0 ambient 0 } }
  #else texture { Own } #end #end
#end

#if (Depth | Matte)
  background { rgb Depth }
#else
  sky_sphere {
    pigment {
      gradient y
      color_map { [0 rgb <0.62, 0.68, 0.74>] [0.12 rgb <0.46, 0.58, 0.72>] [0.5 rgb <0.22, 0.36, 0.58>] [1 rgb <0.12, 0.22, 0.44>] }
    }
    pigment {
      bozo
      color_map { [0.5 rgbt <1, 1, 1, 1>] [0.62 rgbt <0.8, 0.8, 0.8, 0.5>] [0.8 rgbt <0.86, 0.85, 0.84, 0.2>] [1 rgbt <0.6, 0.62, 0.66, 0.2>] }
      warp { turbulence 0.8 octaves 8 omega 0.5 } scale <0.5, 0.1, 0.5>
    }
  }
  light_source { <-700, 620, -500> rgb <1.0, 0.94, 0.84>*0.95 }
  light_source { <400, 900, 200> rgb <0.5, 0.6, 0.75>*0.32 shadowless }
#end

#default { finish { ambient rgb <0.06, 0.07, 0.085> diffuse 0.8 } }

// Cliffs of banded stone, heath above.
#declare Cliff = texture {
  slope { y 0.35 0.9 }
  texture_map {
    [0.0 pigment { gradient y color_map { [0 rgb <0.24, 0.17, 0.12>] [0.35 rgb <0.36, 0.27, 0.19>] [0.5 rgb <0.13, 0.10, 0.08>] [0.7 rgb <0.42, 0.33, 0.24>] [1 rgb <0.24, 0.17, 0.12>] } turbulence 0.5 octaves 5 scale 5 } normal { granite 0.7 scale 6 }]
    [0.35 pigment { granite color_map { [0 rgb <0.03, 0.05, 0.02>] [0.5 rgb <0.10, 0.14, 0.05>] [1 rgb <0.22, 0.22, 0.10>] } scale 22 } normal { granite 0.5 scale 6 }]
    [0.8 pigment { granite color_map { [0 rgb <0.05, 0.08, 0.03>] [0.5 rgb <0.14, 0.19, 0.07>] [1 rgb <0.30, 0.29, 0.13>] } scale 30 } normal { granite 0.5 scale 6 }]
  }
}

// A headland that comes in from one side, its end falling to the sea.
#macro Headland(Seed, From, To, Deep, High, Z)
  height_field {
    function 900, 500 {
      min(0.98, max(0, 0.8*pow(max(0, 1 - pow(abs(2*y - 1), 2)), 0.7)*pow(max(0, 1 - x), 0.38)
      *(0.45 + 0.7*f_noise3d(x*4 + Seed, y*2.5, Seed*3)) + 0.06*f_noise3d(x*30, y*20, Seed) - 0.05 + 0.012*f_noise3d(x*110, y*70, Seed)))
    }
    smooth
    translate <0, 0, -0.5>
    scale <To - From, High, Deep>
    translate <From, -1.5, Z>
    Looks(Cliff, 0)
  }
#end
Headland(3, -190, -34, 110, 30, 190)
Headland(11, 230, 60, 170, 54, 330)
Headland(23, -420, 0, 240, 96, 520)
Headland(31, 560, 20, 320, 205, 780)
Headland(47, -820, 330, 380, 300, 1130)

// The sea.
plane {
  y, 0
  #local Sea = texture {
    pigment { rgb <0.05, 0.10, 0.12> }
    normal { average normal_map { [1 bumps 0.5 scale <6, 1, 1.6>] [1 wrinkles 0.35 scale <2.4, 1, 0.8>] } }
    finish { diffuse 0.55 specular 0.25 roughness 0.02 reflection { 0.05, 0.55 fresnel on } conserve_energy }
  }
  Looks(Sea, 0)
  interior { ior 1.33 }
}

// The near shore.
#declare F_Shore = function(x, z) { 5.2 + 0.9*f_noise3d(x*0.11, 2, z*0.11) + 0.35*f_noise3d(x*0.6, 5, z*0.6) + 0.08*f_noise3d(x*4, 1, z*4) - 0.02*pow(max(0, z + 22), 2) - 0.0016*pow(x - 4, 2) }
height_field {
  function 700, 700 { max(0, F_Shore(x*80 - 40, (1 - y)*44 - 40))/8 }
  smooth
  scale <80, 8, 44> translate <-40, 0, -40>
  #local Turf = texture {
    pigment { bozo pigment_map {
      [0.3 granite color_map { [0 rgb <0.05, 0.07, 0.02>] [0.6 rgb <0.13, 0.15, 0.05>] [1 rgb <0.26, 0.24, 0.11>] } scale 0.8]
      [0.7 granite color_map { [0 rgb <0.16, 0.13, 0.07>] [1 rgb <0.38, 0.32, 0.20>] } scale 0.5] } scale 3 turbulence 0.5 }
    normal { granite 0.6 scale 0.3 }
  }
  Looks(Turf, 1)
}

#declare Bark = texture { pigment { granite color_map { [0 rgb <0.05, 0.035, 0.025>] [1 rgb <0.22, 0.17, 0.12>] } scale 0.3 } normal { granite 0.4 scale 0.1 } }
#declare Leaf = texture { pigment { bozo color_map { [0 rgb <0.03, 0.06, 0.015>] [0.6 rgb <0.09, 0.15, 0.03>] [1 rgb <0.20, 0.24, 0.06>] } scale 0.4 } }
#declare Dice = seed(1907);
#macro Branch(At, Way, Long, Thick, Left)
  #local End = At + Way*Long;
  cone { At, Thick End, Thick*0.68 Looks(Bark, 1) }
  sphere { End, Thick*0.68 Looks(Bark, 1) }
  #if (Left > 0)
    #local I = 0;
    #while (I < 3)
      Branch(End, vnormalize(Way + <rand(Dice) - 0.28, 0.62*rand(Dice) - 0.18, rand(Dice) - 0.5>*1.25), Long*(0.62 + 0.24*rand(Dice)), Thick*0.62, Left - 1)
      #local I = I + 1;
    #end
  #else
    #local I = 0;
    #while (I < 7)
      sphere { 0, 0.1 + 0.06*rand(Dice) scale <1.3, 0.35, 1> rotate <40*rand(Dice), 360*rand(Dice), 60*rand(Dice) - 30>
        translate End + <rand(Dice) - 0.5, rand(Dice) - 0.5, rand(Dice) - 0.5>*0.9 Looks(Leaf, 1) }
      #local I = I + 1;
    #end
  #end
#end
union { Branch(<-8.2, F_Shore(-8.2, -21) - 0.2, -21>, vnormalize(<0.25, 1, 0.05>), 2.1, 0.24, 5) }
union { Branch(<-2.4, F_Shore(-2.4, -17) - 0.2, -17>, vnormalize(<0.35, 1, 0>), 1.5, 0.17, 5) }
union { Branch(<8.6, F_Shore(8.6, -19) - 0.2, -19>, vnormalize(<0.3, 1, -0.05>), 1.8, 0.2, 5) }
