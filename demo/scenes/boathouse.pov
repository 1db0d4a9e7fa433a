// The boathouse on its slip below the station, as an old photograph has it. Tone, fading and damage are put in
// afterwards.
#version 3.7;
global_settings {
  assumed_gamma 1.0
  radiosity { pretrace_start 0.08 pretrace_end 0.01 count 80 error_bound 0.7 recursion_limit 1 brightness 1 }
}
#include "station.inc"
camera { perspective location <-12, 3.6, -21> look_at <0.6, 2.3, 2> angle 50 right x*image_width/image_height }
sky_sphere {
  pigment { gradient y color_map { [0 rgb <0.66, 0.70, 0.74>] [0.3 rgb <0.40, 0.50, 0.62>] [1 rgb <0.2, 0.3, 0.48>] } }
  pigment {
    bozo color_map { [0.42 rgbt 1] [0.6 rgbt <0.86, 0.86, 0.86, 0.4>] [0.8 rgbt <0.8, 0.8, 0.8, 0.05>] [1 rgbt <0.6, 0.62, 0.64, 0.05>] }
    warp { turbulence 0.9 octaves 9 omega 0.52 lambda 2.2 } scale <0.5, 0.16, 0.5> translate <0.4, 0.1, 0.7>
  }
}
light_source { <-140, 150, -120> rgb <1, 0.96, 0.9>*1.05 area_light <10, 0, 0>, <0, 10, 0>, 3, 3 adaptive 1 }

// Boards: weathered, each a little its own.
#declare Board_Wall = texture {
  pigment {
    cells pigment_map {
      [0 wood color_map { [0 rgb <0.13, 0.105, 0.085>] [1 rgb <0.24, 0.20, 0.165>] } turbulence 0.1 scale <0.06, 3, 0.06>]
      [1 wood color_map { [0 rgb <0.19, 0.155, 0.125>] [1 rgb <0.32, 0.275, 0.23>] } turbulence 0.1 scale <0.06, 3, 0.06>]
    } scale <0.24, 40, 40>
  }
  normal { average normal_map { [2 gradient x 0.6 slope_map { [0 <0, 1>] [0.08 <1, 0>] [0.92 <1, 0>] [1 <0, -1>] } scale 0.24] [1 granite 0.3 scale <0.1, 2, 0.1>] } }
  finish { diffuse 0.85 }
}
#declare White_Paint = texture { pigment { wrinkles color_map { [0 rgb 0.5] [0.4 rgb 0.66] [1 rgb 0.74] } scale <0.2, 1, 0.2> } finish { diffuse 0.85 } normal { granite 0.2 scale 0.3 } }
#declare Dark_Inside = texture { pigment { rgb <0.02, 0.018, 0.016> } finish { diffuse 0.5 } }

#declare Boathouse = union {
  difference {
    union {
      box { <-4.2, -1.5, 0>, <4.2, 3.4, 11> }
      prism { linear_sweep linear_spline 0, 11, 4, <-4.2, 3.4>, <4.2, 3.4>, <0, 6.6>, <-4.2, 3.4> rotate x*-90 scale <1, 1, -1> }
    }
    box { <-2.3, -2, -1>, <2.3, 3.1, 10> }
    box { <-0.55, 4.1, -1>, <0.55, 5.1, 1> }
    texture { Board_Wall }
  }
  box { <-2.25, -1.9, 3>, <2.25, 3.05, 10.2> texture { Dark_Inside } }
  box { <-0.5, 4.15, 0.2>, <0.5, 5.05, 0.25> texture { pigment { rgb <0.05, 0.06, 0.07> } finish { specular 0.5 reflection 0.2 } } }
  // Trim round the opening, the corners and the gable.
  union {
    box { <-2.5, -1.5, -0.1>, <-2.25, 3.3, 0.05> } box { <2.25, -1.5, -0.1>, <2.5, 3.3, 0.05> } box { <-2.6, 3.05, -0.12>, <2.6, 3.35, 0.05> }
    box { <-4.3, -1.5, -0.1>, <-4.05, 3.4, 0.1> } box { <4.05, -1.5, -0.1>, <4.3, 3.4, 0.1> }
    box { <-0.68, 4.0, -0.1>, <0.68, 4.12, 0.1> } box { <-0.68, 5.08, -0.1>, <0.68, 5.2, 0.1> } box { <-0.05, 4.1, -0.05>, <0.05, 5.1, 0.15> }
    #local L = sqrt(4.5*4.5 + 3.43*3.43);
    box { <0, -0.18, -0.14>, <L, 0.18, 0.02> rotate z*degrees(atan2(3.43, 4.5)) translate <-4.5, 3.18, 0> }
    box { <-L, -0.18, -0.14>, <0, 0.18, 0.02> rotate z*-degrees(atan2(3.43, 4.5)) translate <4.5, 3.18, 0> }
    texture { White_Paint }
  }
  // The side walls, their boards upright as well, and a window in the near one.
  difference { box { <-4.23, -1.5, 0.1>, <-4.19, 3.4, 11> } box { <-5, 0.9, 4.4>, <-4, 2.2, 6> } texture { Board_Wall rotate y*90 } }
  box { <-4.22, 0.9, 4.4>, <-4.21, 2.2, 6> texture { pigment { rgb <0.05, 0.06, 0.07> } finish { specular 0.5 reflection 0.25 } } }
  union {
    box { <-4.3, 0.78, 4.26>, <-4.15, 0.92, 6.14> } box { <-4.3, 2.18, 4.26>, <-4.15, 2.32, 6.14> }
    box { <-4.3, 0.8, 4.26>, <-4.15, 2.3, 4.42> } box { <-4.3, 0.8, 5.98>, <-4.15, 2.3, 6.14> }
    box { <-4.26, 0.8, 5.15>, <-4.15, 2.3, 5.23> } box { <-4.26, 1.5, 4.3>, <-4.15, 1.58, 6.1> }
    texture { White_Paint }
  }
  // Doors standing open.
  box { <-2.3, -1.2, -0.1>, <0, 3.05, 0.02> translate x*2.3 rotate y*104 translate <-2.35, 0, -0.1> texture { Board_Wall } }
  box { <0, -1.2, -0.1>, <2.3, 3.05, 0.02> translate x*-2.3 rotate y*-112 translate <2.35, 0, -0.1> texture { Board_Wall } }
  // The roof.
  #local A = degrees(atan2(3.2, 4.2)); #local L = sqrt(4.2*4.2 + 3.2*3.2) + 0.5;
  box { <-0.1, 0, -0.4>, <L, 0.12, 11.4> rotate z*A translate <-4.6, 3.12, 0> texture { Slate rotate x*90 rotate y*90 } }
  box { <-L, 0, -0.4>, <0.1, 0.12, 11.4> rotate z*-A translate <4.6, 3.12, 0> texture { Slate rotate x*90 rotate y*90 } }
}
object { Boathouse rotate y*-14 translate <3.2, 0.9, 2> }

// The slip with its rails, a boat on it.
#declare Planks = texture {
  pigment { wood color_map { [0 rgb <0.16, 0.135, 0.11>] [1 rgb <0.33, 0.29, 0.245>] } turbulence 0.1 scale <3, 0.08, 0.08> }
  normal { gradient z 0.7 slope_map { [0 <0, 1>] [0.1 <1, 0>] [0.9 <1, 0>] [1 <0, -1>] } scale 0.3 }
  finish { diffuse 0.8 }
}
union {
  box { <-2.6, -0.3, -16>, <2.6, 0, 3> texture { Planks } }
  box { <-1.5, 0, -16>, <-1.35, 0.12, 3> texture { Painted_Iron } } box { <1.35, 0, -16>, <1.5, 0.12, 3> texture { Painted_Iron } }
  #declare I = 0;
  #while (I < 6)
    cylinder { <-2.5, -5, -15 + I*3>, <-2.5, 0.1, -15 + I*3>, 0.14 texture { Tarred_Board } }
    cylinder { <2.5, -5, -15 + I*3>, <2.5, 0.1, -15 + I*3>, 0.14 texture { Tarred_Board } }
    #declare I = I + 1;
  #end
  rotate x*-8 rotate y*-14 translate <3.0, 0.95, 1.9>
}
#macro Boat()
  difference {
    sphere { 0, 1 scale <0.98, 0.86, 2.8> }
    sphere { 0, 1 scale <0.90, 0.78, 2.68> translate y*0.02 }
    plane { -y, 0 translate y*0.02 }
    texture { White_Paint }
  }
  box { <-0.045, -0.92, -2.2>, <0.045, -0.7, 2.2> texture { White_Paint } }
#end
union {
  Boat()
  box { <-0.86, -0.22, -0.9>, <0.86, -0.14, -0.55> texture { Planks } } box { <-0.8, -0.22, 0.9>, <0.8, -0.14, 1.25> texture { Planks } }
  cylinder { <-0.5, 0.12, -2.4>, <-0.2, 0.2, 2.2>, 0.045 texture { Planks } }
  rotate x*-8 rotate y*-14 translate <1.5, 0.93, -5.2>
}
// Pots, a coil of rope, a barrel on the shore.
#declare I = 0; #declare R = seed(17);
#while (I < 5)
  union {
    torus { 0.42, 0.03 } torus { 0.42, 0.03 translate y*0.3 } torus { 0.3, 0.03 translate y*0.6 }
    #local J = 0; #while (J < 12) sphere_sweep { linear_spline 3, <0.42, 0, 0>, 0.02 <0.42, 0.3, 0>, 0.02 <0.3, 0.6, 0>, 0.02 rotate y*J*30 } #local J = J + 1; #end
    texture { Tarred_Board } translate <-5.6 + 0.95*mod(I, 3) + 0.2*rand(R), 0.02 + 0.62*floor(I/3), -5.0 + 0.3*I>
  }
  #declare I = I + 1;
#end
union {
  lathe { cubic_spline 7, <0, -0.1>, <0, 0>, <0.42, 0>, <0.52, 0.55>, <0.42, 1.1>, <0, 1.1>, <0, 1.2> texture { Tarred_Board } }
  torus { 0.48, 0.03 translate y*0.25 texture { Painted_Iron } } torus { 0.48, 0.03 translate y*0.85 texture { Painted_Iron } }
  translate <-2.6, 0.1, -1.2>
}

// The shore, rocks, the sea, the headland.
height_field {
  function 1200, 1200 { max(0, 0.30 + 0.34*(0.58 - y) + 0.09*(0.55 - x)
    + 0.10*(f_noise3d(x*9, 0, y*9) - 0.5) + 0.05*(f_noise3d(x*34, 2, y*34) - 0.5) + 0.02*(f_noise3d(x*130, 4, y*130) - 0.5)) }
  smooth translate <-0.5, -0.34, -0.42> scale <70, 12, 60>
  texture {
    slope { y } texture_map {
      [0.5 Rock] [0.82 pigment { granite color_map { [0 rgb <0.20, 0.18, 0.15>] [1 rgb <0.42, 0.38, 0.33>] } scale 1.4 } normal { average normal_map { [1 bumps 1 scale 0.12] [1 granite 0.8 scale 0.5] } } finish { diffuse 0.8 }]
    }
  }
}
#declare I = 0; #declare R = seed(91);
#while (I < 60)
  #local X = -16 + 30*rand(R); #local Z = -14 + 16*rand(R); #local S = 0.14 + 0.55*pow(rand(R), 2.5);
  isosurface {
    function { f_sphere(x, y*1.4, z, 0.8) + 0.4*f_noise3d(x*2 + I*5, y*2, z*2) } contained_by { box { -1.1, 1.1 } } max_gradient 3
    texture { Rock } scale S rotate y*360*rand(R) translate <X, -0.75 + 0.075*(Z + 4) - 0.015*X, Z>
  }
  #declare I = I + 1;
#end
plane { y, -0.75
  pigment { rgb <0.03, 0.055, 0.065> }
  normal { average normal_map { [1 bumps 0.35 scale <1.8, 1, 0.6>] [1 wrinkles 0.3 scale <5, 1, 1.4>] } }
  finish { reflection { 0.08, 0.75 fresnel on } conserve_energy specular 0.25 roughness 0.01 diffuse 0.5 } interior { ior 1.33 }
}
height_field {
  function 600, 400 { max(0, (1 - pow(x*2.4 - 1.2, 2) - pow(y*2.4 - 1.2, 2))*0.7 + 0.2*f_ridge(x*9, 0.3, y*6, 1, 5, 2.2, 0.6, 0.7, 2)) }
  smooth translate <-0.5, 0, -0.5> scale <150, 20, 70>
  texture { pigment { granite color_map { [0 rgb <0.13, 0.14, 0.10>] [1 rgb <0.30, 0.29, 0.23>] } scale 12 } normal { granite 0.6 scale 7 } finish { diffuse 0.75 } }
  translate <-40, -1, 130>
}
object { Tower(0.05) scale 0.8 rotate y*35 translate <-24, 3.2, 60> }
fog { fog_type 2 distance 460 rgb <0.55, 0.60, 0.65> fog_offset 0 fog_alt 4 }
