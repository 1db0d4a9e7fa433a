// A brass ship's lantern with a wire cage before a paper sweep. Screen = 1: the sweep is green and its light lies on the
// rim and the underside; 0: it is grey. Matte 1: the lantern.
#version 3.7;
#include "still.inc"
#ifndef (Screen) #declare Screen = 1; #end
global_settings {
  assumed_gamma 1.0
  max_trace_level 7
  #if (Matte = 0) radiosity { pretrace_start 0.08 pretrace_end 0.01 count 60 error_bound 0.9 recursion_limit 1 brightness 1.6 } #end
}
camera { perspective location <0, 27, -86> look_at <0, 18.6, 0> angle 42 right x*image_width/image_height }
#if (Screen = 1)
  #declare Sweep_Colour = rgb <0.06, 0.55, 0.12>;
#else
  #declare Sweep_Colour = rgb <0.25, 0.25, 0.25>;
#end
#if (Matte = 0)
  background { Sweep_Colour*0.5 }
  light_source { <-110, 150, -120> rgb <1, 0.985, 0.96>*0.85 area_light <70, 0, 0>, <0, 70, 0>, 4, 4 adaptive 1 }
  light_source { <150, 90, -90> rgb <0.95, 0.975, 1>*0.38 area_light <60, 0, 0>, <0, 60, 0>, 4, 4 adaptive 1 }
  light_source { <0, 220, 120> rgb 0.55 area_light <120, 0, 0>, <0, 0, 60>, 3, 3 adaptive 1 }
  // Two soft boxes for the metal to show.
  box { <-95, 20, -120>, <-60, 120, -119> rotate y*-20 pigment { rgb 1 } finish { emission 0.9 diffuse 0 } no_image no_shadow }
  box { <90, 10, -60>, <91, 110, -10> pigment { rgb 1 } finish { emission 0.6 diffuse 0 } no_image no_shadow }
#end
// The sweep: a floor that bends up into a wall.
#if (Matte = 0)
union {
  box { <-260, -1, -70>, <260, 0, 60> }
  difference { box { <-260, 0, 60>, <260, 40, 100> } cylinder { <-270, 40, 60>, <270, 40, 60>, 40 } }
  box { <-260, 40, 100>, <260, 260, 101> }
  pigment { Sweep_Colour } normal { bumps 0.02 scale 9 } finish { diffuse 0.85 }
}
#end

#declare Lantern_Brass =
  texture {
    pigment { granite color_map { [0 rgb <0.58, 0.40, 0.155>] [0.6 rgb <0.68, 0.485, 0.21>] [0.85 rgb <0.60, 0.42, 0.18>] [1 rgb <0.30, 0.21, 0.12>] } scale 7 }
    normal { average normal_map { [1 bumps 0.05 scale 0.5] [1 granite 0.05 scale 3] [0.5 wrinkles 0.08 scale 1.4] } }
    finish { diffuse 0.42 specular 0.6 roughness 0.035 metallic reflection { 0.34 metallic } brilliance 1.8 }
  }
#declare Wire_Steel = texture { pigment { rgb <0.52, 0.50, 0.47> } finish { diffuse 0.45 specular 0.5 roughness 0.03 metallic reflection { 0.2 metallic } } }
#declare Clear_Glass = texture { pigment { rgbf <0.97, 0.98, 0.97, 0.93> } finish { specular 0.7 roughness 0.004 reflection { 0.02, 0.5 fresnel on } conserve_energy } }
#macro Ring(R, T, Y) torus { R, T translate y*Y } #end

#declare Body = union {
  // Foot, fount, burner.
  lathe { cubic_spline 12, <0, -0.2>, <0, 0>, <8.6, 0>, <8.9, 0.5>, <8.3, 1.1>, <7.2, 1.6>, <7.4, 3.2>, <7.6, 5.4>, <6.9, 6.6>, <5.4, 7.4>, <0, 7.6>, <0, 7.8> }
  Ring(7.55, 0.22, 2.9) Ring(7.75, 0.26, 5.2)
  cylinder { <0, 7, 0>, <0, 9.6, 0>, 2.3 } Ring(2.3, 0.2, 9.4) cone { <0, 9.6, 0>, 2.1, <0, 11, 0>, 1.1 }
  // The rim the glass stands in, and the one it ends in.
  difference { cylinder { <0, 7.4, 0>, <0, 9.2, 0>, 7.2 } cylinder { <0, 7.7, 0>, <0, 9.4, 0>, 6.7 } }
  Ring(7.2, 0.28, 9.1)
  difference { cylinder { <0, 23.4, 0>, <0, 25, 0>, 6.9 } cylinder { <0, 23, 0>, <0, 24.6, 0>, 6.3 } }
  Ring(6.95, 0.28, 23.6)
  // The hood with its slots, the chimney, the cap.
  cone { <0, 25, 0>, 7.4, <0, 27.6, 0>, 4.6 } Ring(7.4, 0.3, 25)
  difference {
    cylinder { <0, 27.4, 0>, <0, 30.4, 0>, 4.4 }
    #local I = 0; #while (I < 14) cylinder { <0, 28.8, 0>, <0, 28.8, -6>, 0.5 scale <1, 1, 1> rotate y*I*360/14 } #local I = I + 1; #end
    cylinder { <0, 27, 0>, <0, 30, 0>, 4.1 }
  }
  cone { <0, 30.3, 0>, 5.6, <0, 32.4, 0>, 1.6 } Ring(5.6, 0.26, 30.35) sphere { <0, 32.5, 0>, 1.5 }
  // Ears for the handle.
  sphere { <-7.6, 25.6, 0>, 0.9 } sphere { <7.6, 25.6, 0>, 0.9 }
  // The wick's wheel.
  cylinder { <2, 8.6, -1>, <9.4, 8.6, -2.6>, 0.22 } cylinder { <9.2, 8.6, -2.55>, <9.7, 8.6, -2.67>, 1.0 }
}
object { Body Thing(Lantern_Brass, 1) }
// A plate on the fount.
union {
  intersection { difference { cylinder { <0, 3.4, 0>, <0, 4.9, 0>, 7.95 } cylinder { <0, 3, 0>, <0, 5, 0>, 7.5 } } box { <-3.4, 3, -9>, <3.4, 5, 0> } }
  Thing(texture { pigment { rgb <0.09, 0.07, 0.05> } finish { diffuse 0.6 specular 0.3 roughness 0.03 } }, 1)
}
// Glass, and the cage of wire round it.
difference {
  cylinder { <0, 8.2, 0>, <0, 24.2, 0>, 6.15 } cylinder { <0, 8, 0>, <0, 24.4, 0>, 5.85 }
  #if (Matte = 0) texture { Clear_Glass }  #else Thing(Lantern_Brass, 0) no_image #end
}
union {
  #declare I = 0;
  #while (I < 10)
    sphere_sweep { cubic_spline 6, <6.7, 7, 0>, 0.2 <7.1, 9, 0>, 0.2 <8.5, 13, 0>, 0.2 <8.5, 19.5, 0>, 0.2 <7.0, 24, 0>, 0.2 <6.6, 26, 0>, 0.2 tolerance 0.01 rotate y*(I*36 + 12) }
    #declare I = I + 1;
  #end
  Ring(8.62, 0.2, 13.4) Ring(8.75, 0.2, 16.4) Ring(8.5, 0.2, 19.4)
  Thing(Wire_Steel, 1)
}
// The bail handle with its wooden grip.
union {
  sphere_sweep { cubic_spline 9, <-7.8, 24, 0>, 0.24 <-8.0, 25.6, 0>, 0.24 <-9.2, 30, 1.4>, 0.24 <-7.0, 36.5, 3.6>, 0.24 <0, 39.2, 4.5>, 0.24 <7.0, 36.5, 3.6>, 0.24 <9.2, 30, 1.4>, 0.24 <8.0, 25.6, 0>, 0.24 <7.8, 24, 0>, 0.24 tolerance 0.01 }
  Thing(Wire_Steel, 1)
}
sphere_sweep { cubic_spline 5, <-4.5, 38.0, 4.2>, 0.5 <-3, 38.75, 4.4>, 0.75 <0, 39.2, 4.5>, 0.85 <3, 38.75, 4.4>, 0.75 <4.5, 38.0, 4.2>, 0.5 tolerance 0.01 Thing(Dark_Wood, 1) }
