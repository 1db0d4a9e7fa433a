// The bay from the landing field: a plain of turf in front, the sea, headlands, the tower on its rock. The light is
// even; the faults are put in afterwards.
#version 3.7;
global_settings {
  assumed_gamma 1.0
  #ifndef (Matte) radiosity { pretrace_start 0.08 pretrace_end 0.01 count 80 error_bound 0.7 recursion_limit 1 brightness 1 } #end
}
#include "station.inc"

camera { perspective location <0, 3.3, -42> look_at <1.5, 6.0, 40> angle 58 right x*image_width/image_height }

#if (Matte = 0)
  sky_sphere {
    pigment {
      gradient y
      color_map {
        [0.00 rgb <0.66, 0.70, 0.72>*0.88]
        [0.08 rgb <0.50, 0.60, 0.70>*0.85]
        [0.25 rgb <0.28, 0.42, 0.60>*0.80]
        [0.60 rgb <0.13, 0.24, 0.45>*0.74]
        [1.00 rgb <0.08, 0.16, 0.36>*0.7]
      }
    }
    pigment {
      bozo
      color_map { [0.48 rgbt <1, 1, 1, 1>] [0.58 rgbt <0.86, 0.85, 0.83, 0.52>] [0.72 rgbt <0.90, 0.885, 0.86, 0.1>] [0.9 rgbt <0.66, 0.67, 0.69, 0.05>] [1 rgbt <0.5, 0.52, 0.56, 0.05>] }
      warp { turbulence 0.9 octaves 10 omega 0.54 lambda 2.15 }
      scale <0.42, 0.13, 0.42> translate <0.9, 0.17, 0.3>
    }
  }
  light_source { <-160, 110, -110> rgb <1.0, 0.93, 0.80>*1.05 area_light <12, 0, 0>, <0, 12, 0>, 3, 3 adaptive 1 jitter circular orient }
  fog { fog_type 2 distance 560 rgb <0.55, 0.63, 0.70> fog_offset 0 fog_alt 9 }
#else
  background { rgb (Matte = 1) }
#end

// The field in front: turf, a worn path, stones.
#declare F_Field = function(x, z) {
  0.9*f_noise3d(x*0.06, 0, z*0.06) + 0.24*f_noise3d(x*0.33 + 3, 1, z*0.33) + 0.12*f_noise3d(x*1.3, 9, z*1.3)
  + 0.075*f_noise3d(x*4.7, 2, z*4.7) + 0.05*f_noise3d(x*15, 5, z*15) - 0.16/(1 + pow((x + 3 - 0.16*z + 2.2*sin(z*0.11)), 4))
}
#declare Field =
  texture {
    pigment {
      bozo
      pigment_map {
        [0.25 granite color_map { [0 rgb <0.085, 0.10, 0.04>] [0.6 rgb <0.15, 0.165, 0.07>] [1 rgb <0.24, 0.225, 0.12>] } scale 0.9]
        [0.75 granite color_map { [0 rgb <0.14, 0.13, 0.065>] [0.5 rgb <0.24, 0.215, 0.12>] [1 rgb <0.34, 0.30, 0.19>] } scale 0.7]
      }
      scale 5 warp { turbulence 0.6 octaves 5 }
    }
    normal { average normal_map { [1.2 bumps 1.5 scale <0.035, 0.12, 0.035>] [1 granite 0.9 scale 0.35] } }
    finish { diffuse 0.8 }
  }
#declare Path =
  texture {
    pigment { granite color_map { [0 rgb <0.30, 0.25, 0.18>] [1 rgb <0.52, 0.46, 0.36>] } scale 0.8 }
    normal { granite 0.5 scale 0.4 } finish { diffuse 0.8 }
  }
#declare F_Ground = function(x, z) { 1.5*F_Field(x, z) - 0.75 - 0.006*pow(max(0, z + 10 + 6*f_noise3d(x*0.08, 4, 0)), 2) }
// A height field over x -70..70, z -46..24, heights -9..3.
height_field {
  function 2600, 1300 { (F_Ground(-70 + 140*x, 24 - 70*y) + 9)/12 }
  smooth
  scale <140, 12, 70> translate <-70, -9, -46>
  #if (Matte = 0)
    texture {
      function { min(1, max(0, 1.25/(1 + pow((x + 3 - 0.16*z + 2.2*sin(z*0.11))*0.95, 4)) - 0.25 + 0.55*(f_noise3d(x*1.7, 3, z*1.7) - 0.5))) }
      texture_map { [0.35 Field] [0.6 Path] }
    }
  #else
    Paint(Turf, 0, 1)
  #end
}
#declare R = seed(41);
#declare I = 0;
#while (I < 42)
  #declare Z = -38 + 34*rand(R); #declare X = (rand(R) - 0.5)*1.3*(Z + 50); #declare S = 0.10 + 0.28*pow(rand(R), 3);
  isosurface {
    function { f_sphere(x, y*1.5, z, 0.8) + 0.35*f_noise3d(x*2.2 + I*5, y*2.2, z*2.2) }
    contained_by { box { -1.1, 1.1 } } max_gradient 3
    Paint(Rock, 0, 1) scale S rotate y*360*rand(R) translate <X, 1.5*F_Field(X, Z) - 0.75 - 0.05*S, Z>
  }
  #declare I = I + 1;
#end

// A post-and-wire fence that runs from the foreground towards the shore, on the right.
#declare I = 0;
#while (I < 9)
  #declare X = 2.9 + I*1.55; #declare Z = -36.5 + I*3.9; #declare G = 1.5*F_Field(X, Z) - 0.75;
  union {
    cone { <0, -0.5, 0>, 0.085, <0, 1.25, 0>, 0.068 Paint(Tarred_Board, 0, 1) }
    rotate <3*sin(I*2.1), I*40, 3.5*cos(I*3.7)> translate <X, G, Z>
  }
  #if (I < 8)
    #declare X2 = X + 1.55; #declare Z2 = Z + 3.9; #declare G2 = 1.5*F_Field(X2, Z2) - 0.75;
    cylinder { <X, G + 1.08, Z>, <X2, G2 + 1.08, Z2>, 0.009 Paint(Painted_Iron, 0, 1) }
    cylinder { <X, G + 0.66, Z>, <X2, G2 + 0.66, Z2>, 0.009 Paint(Painted_Iron, 0, 1) }
  #end
  #declare I = I + 1;
#end

// The sea.
plane { y, -3
  #if (Matte = 0)
    pigment { rgb <0.035, 0.085, 0.105> }
    normal { average normal_map { [1 bumps 0.45 scale <3, 1, 0.9>] [1 wrinkles 0.35 scale <9, 1, 2.2>] [0.6 bumps 0.3 scale <0.7, 1, 0.3>] } }
    finish { reflection { 0.1, 0.75 fresnel on } conserve_energy specular 0.25 roughness 0.01 diffuse 0.55 } interior { ior 1.33 }
  #else Paint(Turf, 0, 0) #end
}

// Headlands, one behind the other.
#macro Headland(Px, Pz, W, H, Seed)
  height_field {
    function 700, 500 {
      max(0, (1 - pow(x*2.6 - 1.3, 2) - pow(y*2.6 - 1.3, 2))*0.62 + 0.17*(f_noise3d(x*W*0.12 + Seed, 1, y*W*0.07) - 0.5)
        + 0.14*f_ridge(x*W*0.15 + Seed, 0.3, y*W*0.09, 1, 5, 2.2, 0.6, 0.7, 2) + 0.03*f_noise3d(x*W*0.9, 2, y*W*0.5 + Seed))
    }
    smooth
    translate <-0.5, 0, -0.5> scale <W*2.6, H*1.25, W*1.5>
    #if (Matte = 0)
      texture { slope { y } texture_map {
        [0.55 pigment { granite color_map { [0 rgb <0.16, 0.15, 0.135>] [1 rgb <0.34, 0.31, 0.28>] } scale 16 } normal { granite 0.8 scale 9 } finish { diffuse 0.8 }]
        [0.80 pigment { bozo color_map { [0 rgb <0.10, 0.125, 0.055>] [1 rgb <0.20, 0.20, 0.095>] } scale 11 warp { turbulence 0.7 octaves 6 } } normal { granite 0.5 scale 5 } finish { diffuse 0.75 }] } }
    #else Paint(Rock, 0, 0) #end
    translate <Px, -3.5, Pz>
  }
#end
Headland(-95, 190, 92, 21, 3)
Headland(150, 330, 150, 30, 11)
Headland(-210, 520, 230, 44, 23)
Headland(27, 63, 27, 6.0, 5)

object { Tower(0.1) scale 0.93 rotate y*35 translate <25, 2.3, 60> }
object { House(8.2, 5.4, 2.7, 2.3, Limewash) scale 0.93 rotate y*18 translate <35.2, 1.6, 64> }
