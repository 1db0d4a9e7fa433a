// The signal tower at dusk: brickwork, a railing, a mast with thin stays, a sky that runs from rose to blue.
#version 3.7;
global_settings {
  assumed_gamma 1.0
  #ifndef (Matte) radiosity { pretrace_start 0.08 pretrace_end 0.01 count 90 error_bound 0.6 recursion_limit 2 brightness 1 } #end
}
#include "station.inc"

camera { perspective location <3.2, 1.75, -33> look_at <-2.2, 10.1, 0> angle 53 right x*image_width/image_height }

#if (Matte = 0)
  sky_sphere {
    pigment {
      gradient y
      color_map {
        [0.00 rgb <0.80, 0.42, 0.22>*0.78]
        [0.05 rgb <0.72, 0.42, 0.26>*0.74]
        [0.15 rgb <0.46, 0.36, 0.36>*0.66]
        [0.30 rgb <0.25, 0.285, 0.40>*0.60]
        [0.50 rgb <0.13, 0.18, 0.32>*0.54]
        [1.00 rgb <0.05, 0.085, 0.19>*0.46]
      }
    }
    pigment {
      bozo
      color_map { [0.50 rgbt <1, 1, 1, 1>] [0.66 rgbt <0.50, 0.34, 0.31, 0.80>] [0.85 rgbt <0.36, 0.27, 0.29, 0.58>] [1 rgbt <0.28, 0.23, 0.27, 0.5>] }
      warp { turbulence 0.85 octaves 9 omega 0.56 lambda 2.2 }
      scale <0.75, 0.055, 0.6> rotate z*-3 translate <0.37, 0.02, 0>
    }
  }
  // What is left of the sun, low and to the left behind the camera's shoulder; the sky does the rest.
  light_source { <-90, 26, -60> rgb <1.0, 0.62, 0.40>*0.62 area_light <14, 0, 0>, <0, 14, 0>, 5, 5 adaptive 1 jitter circular orient }
  fog { fog_type 2 distance 260 rgb <0.40, 0.31, 0.30> fog_offset 0 fog_alt 7 }
#else
  background { rgb (Matte = 1) }
#end

object { Tower(1.25) rotate y*18 }

// The signal mast beside the tower, with a yard and eight stays.
#declare Mast_Foot = <-8.6, 0.2, 2.5>;
union {
  cone { 0, 0.15, <0, 10.5, 0>, 0.1 Paint(Limewash, 1, 0) }
  cone { <0, 9.6, -0.16>, 0.09, <0, 16.6, -0.16>, 0.045 Paint(Limewash, 1, 0) }
  cylinder { <0, 9.7, -0.2>, <0, 9.8, 0.2>, 0.24 Paint(Painted_Iron, 1, 0) }
  cylinder { <0, 10.3, -0.2>, <0, 10.4, 0.2>, 0.2 Paint(Painted_Iron, 1, 0) }
  cylinder { <-3.1, 11.6, -0.25>, <3.1, 11.6, -0.25>, 0.06 Paint(Limewash, 1, 0) }
  sphere { <0, 16.65, -0.16>, 0.1 Paint(Painted_Iron, 1, 0) }
  #declare I = 0;
  #while (I < 4)
    #declare A = radians(45 + 90*I);
    Rod(<0, 10.2, 0>, <cos(A)*6.2, -0.6, sin(A)*6.2>, 0.014)
    Rod(<0, 16.2, -0.16>, <cos(A + 0.3)*7.4, -0.6, sin(A + 0.3)*7.4>, 0.011)
    #declare I = I + 1;
  #end
  Rod(<-3.0, 11.6, -0.25>, <0, 14.9, -0.16>, 0.009)
  Rod(<3.0, 11.6, -0.25>, <0, 14.9, -0.16>, 0.009)
  Rod(<-2.7, 11.6, -0.25>, <-2.6, 0.4, -0.3>, 0.007)
  Rod(<2.7, 11.6, -0.25>, <2.6, 0.4, -0.3>, 0.007)
  // Two signal shapes hoisted on the yard: a ball and a cone.
  sphere { <-2.68, 9.4, -0.27>, 0.33 Paint(Painted_Iron, 1, 0) }
  cone { <2.67, 8.7, -0.27>, 0.36, <2.67, 9.5, -0.27>, 0.02 Paint(Painted_Iron, 1, 0) }
  translate Mast_Foot
}

// The keeper's cottage.
object { House(8.2, 5.4, 2.7, 2.3, Limewash) rotate y*-28 translate <9.6, 0.1, 6.5> }
union {
  box { <-0.45, 0, -0.45>, <0.45, 1.9, 0.45> Paint(Brickwork, 0, 0) }
  cylinder { <0, 1.9, 0>, <0, 2.35, 0>, 0.17 Paint(Rock, 0, 0) }
  rotate y*-28 translate <12.1, 4.1, 7.9>
}
#if (Matte = 0)
  union {
    box { <-0.42, 1.0, -0.03>, <0.42, 1.95, 0.03> pigment { rgb <1, 0.72, 0.38> } finish { emission 0.55 diffuse 0.1 } }
    box { <-0.025, 1.0, -0.05>, <0.025, 1.95, 0.04> texture { Limewash } }
    box { <-0.42, 1.45, -0.05>, <0.42, 1.49, 0.04> texture { Limewash } }
    translate <-1.9, 0, -2.72> rotate y*-28 translate <9.6, 0.1, 6.5>
  }
#end

// The rock it all stands on: turf above, stone where it breaks.
#declare F_Ground = function(x, z) {
  0.55*f_noise3d(x*0.09, 0, z*0.09) + 0.32*f_noise3d(x*0.31 + 7, 3, z*0.31) + 0.11*f_noise3d(x*1.1, 9, z*1.1)
  + 0.05*f_noise3d(x*3.7, 2, z*3.7) + 0.022*f_noise3d(x*13, 5, z*13)
}
isosurface {
  function { y - 2.1*F_Ground(x, z) + 1.25 + 0.0035*max(0, z - 6)*max(0, z - 6) }
  contained_by { box { <-46, -12, -34>, <46, 1.8, 46> } }
  max_gradient 2.4 accuracy 0.004
  #if (Matte = 0)
    texture {
      slope { y } texture_map { [0.62 Rock] [0.80 Turf] }
    }
  #else
    Paint(Turf, 0, 1)
  #end
}
// The sea behind.
plane { y, -9
  #if (Matte = 0)
    pigment { rgb <0.05, 0.065, 0.085> } normal { bumps 0.25 scale <6, 1, 1.4> } finish { reflection 0.45 specular 0.1 diffuse 0.3 }
  #else Paint(Turf, 0, 0) #end
}
