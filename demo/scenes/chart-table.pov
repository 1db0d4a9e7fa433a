// The chart table under the window of the keeper's room: an enamel mug, a chart, a sextant, in the sun; with Bars = 1
// the hard shadows of the window's bars lie across. Matte 1: the mug; 2: all that lies on the table.
#version 3.7;
#include "still.inc"
#ifndef (Bars) #declare Bars = 0; #end
global_settings {
  assumed_gamma 1.0
  #if (Matte = 0) radiosity { pretrace_start 0.08 pretrace_end 0.01 count 180 error_bound 0.55 recursion_limit 2 brightness 1 } #end
}
camera { perspective location <2, 44, -58> look_at <1.5, 2.5, -2> angle 42 right x*image_width/image_height }
#if (Matte = 0)
  background { rgb <0.3, 0.32, 0.35> }
  light_source { <-120, 190, 150> rgb <1.0, 0.98, 0.95>*0.5 area_light <90, 0, 0>, <0, 60, 40>, 4, 4 adaptive 1 }
  light_source { <140, 160, -120> rgb <0.9, 0.95, 1.0>*0.26 area_light <80, 0, 0>, <0, 60, 0>, 3, 3 adaptive 1 }
  box { <-300, -120, -260>, <320, 260, 300> hollow inverse pigment { rgb <0.50, 0.49, 0.46> } finish { diffuse 0.8 } no_shadow }
#end

// The table.
#declare Board = texture {
  pigment {
    wood color_map { [0 rgb <0.20, 0.115, 0.06>] [0.5 rgb <0.28, 0.165, 0.09>] [0.8 rgb <0.34, 0.21, 0.12>] [1 rgb <0.16, 0.09, 0.05>] }
    warp { turbulence 0.25 octaves 5 } scale <2.2, 2.2, 40> rotate <2, 90, 3>
  }
  normal { average normal_map { [1 granite 0.08 scale <40, 1, 1.2>] [1 bumps 0.05 scale 0.6] } }
  finish { diffuse 0.8 specular 0.12 roughness 0.06 reflection { 0.0, 0.08 fresnel on } conserve_energy }
}
#declare I = 0;
#while (I < 6)
  object { Round_Box(<-90, -4, -50 + I*20.1>, <90, 0, -30.1 + I*20.1>, 0.25, 0) Thing(texture { Board translate <I*37, I*11, I*5> }, 0) }
  #declare I = I + 1;
#end

// The chart: paper with a coast, soundings, a rose, bent up at two corners.
#declare F_Coast = function(x, z) { z - 6*sin(x*0.13 + 0.4) - 3.2*sin(x*0.37 + 1) - 2.4*(f_noise3d(x*0.5, 0, z*0.5) - 0.5)*4 + 3 }
#declare Paper = pigment { granite color_map { [0 rgb <0.66, 0.61, 0.49>] [0.5 rgb <0.74, 0.69, 0.57>] [1 rgb <0.78, 0.735, 0.62>] } scale 20 }
#declare Ink = pigment { rgb <0.09, 0.08, 0.075> }
#declare Land = pigment { granite color_map { [0 rgb <0.60, 0.50, 0.30>] [1 rgb <0.69, 0.585, 0.37>] } scale 14 }
#declare Shoal = pigment { granite color_map { [0 rgb <0.50, 0.575, 0.56>] [1 rgb <0.57, 0.64, 0.61>] } scale 14 }
#declare Chart_Colours = pigment {
  function { min(0.999, max(0, 0.5 + F_Coast(x, z)/20)) }
  pigment_map { [0.40 Paper] [0.40 Shoal] [0.44 Shoal] [0.44 Ink] [0.446 Shoal] [0.446 Shoal] [0.497 Shoal] [0.497 Ink] [0.508 Ink] [0.508 Land] }
}
#declare Grid_Lines = pigment {
  function { max(max(0, 1 - abs(mod(abs(x), 9) - 4.5)/0.035), max(0, 1 - abs(mod(abs(z + 60), 9) - 4.5)/0.035)) }
  color_map { [0.05 rgbt 1] [0.3 rgbt <0.2, 0.18, 0.16, 0.45>] }
}
#declare Border = pigment {
  function { max(max(0, 1 - abs(abs(x) - 27.2)/0.09), max(0, 1 - abs(abs(z) - 19.2)/0.09)) + max(max(0, 1 - abs(abs(x) - 28)/0.2), max(0, 1 - abs(abs(z) - 20)/0.2)) }
  color_map { [0.05 rgbt 1] [0.3 rgbt <0.1, 0.09, 0.085, 0.1>] }
}
#declare Chart =
  texture { pigment { Chart_Colours } finish { diffuse 0.8 } normal { granite 0.03 scale 2 } }
  texture { pigment { Grid_Lines } finish { diffuse 0.8 } }
  texture { pigment { Border } finish { diffuse 0.8 } }
#declare F_Bend = function(x, z) { 0.12 + 0.25*f_noise3d(x*0.12, 0, z*0.12) + 0.9*pow(max(0, (x + z*0.8 - 31)/10), 2) + 0.6*pow(max(0, (-x - z*0.8 - 31)/10), 2) }
#macro Chart_Sheet()
  mesh2 {
    #local N = 90; #local M = 64;
    vertex_vectors { (N + 1)*(M + 1)
      #local J = 0; #while (J <= M) #local I = 0; #while (I <= N)
        #local X = -30 + 60*I/N; #local Z = -22 + 44*J/M; , <X, F_Bend(X, Z), Z>
      #local I = I + 1; #end #local J = J + 1; #end }
    face_indices { 2*N*M
      #local J = 0; #while (J < M) #local I = 0; #while (I < N)
        #local A = J*(N + 1) + I; , <A, A + 1, A + N + 1>, <A + 1, A + N + 2, A + N + 1>
      #local I = I + 1; #end #local J = J + 1; #end }
  }
#end
union {
  object { Chart_Sheet() Thing(Chart, 2) }
  // Soundings on the water, none on another or on the rose.
  #local I = 0; #local R = seed(5); #local Placed = array[34]; #local Count = 0;
  #while (I < 34)
    #local X = -24 + 48*rand(R); #local Z = -17 + 20*rand(R); #local N = 3 + floor(30*rand(R));
    #local Free = (F_Coast(X, Z) < -1.2 & vlength(<X, 0, Z> - <16, 0, -10>) > 6.4);
    #local K = 0; #while (K < Count) #if (vlength(<X, 0, Z> - Placed[K]) < 2.6) #local Free = false; #end #local K = K + 1; #end
    #if (Free)
      #local Placed[Count] = <X, 0, Z>; #local Count = Count + 1;
      text { ttf "timrom.ttf" str(N, 0, 0) 0.01, 0 rotate x*90 scale <1.1, 1, 1.2> translate <X, F_Bend(X, Z) + 0.02, Z> Thing(texture { pigment { Ink } }, 2) }
    #end
    #local I = I + 1;
  #end
  text { ttf "timrom.ttf" "LANTERN ROCK" 0.01, 0.08 rotate x*90 scale <2.2, 1, 2.4> translate <-11, F_Bend(-6, 13.4) + 0.08, 13.4> Thing(texture { pigment { Ink } }, 2) }
  text { ttf "timrom.ttf" "and its approaches" 0.01, 0.02 rotate x*90 scale <1.4, 1, 1.5> translate <-9, F_Bend(-4, 11) + 0.08, 11> Thing(texture { pigment { Ink } }, 2) }
  // The rose.
  #local I = 0;
  #while (I < 16)
    triangle { <0, 0.55, 0>, <0.42, 0.55, 1.1>, <0, 0.55, 5 - 1.7*mod(I, 2)> rotate y*22.5*I translate <16, 0.05, -10> Thing(texture { pigment { rgb <0.30, 0.07, 0.05> } }, 2) }
    #local I = I + 1;
  #end
  torus { 5.2, 0.05 translate <16, 0.6, -10> Thing(texture { pigment { Ink } }, 2) }
  rotate y*-9 translate <3, 0, -3>
}

// The mug: enamelled, blue rim, a chip.
#declare Enamel = texture {
  pigment { granite color_map { [0 rgb <0.74, 0.745, 0.73>] [1 rgb <0.79, 0.79, 0.775>] } scale 5 }
  normal { bumps 0.03 scale 1.6 }
  finish { diffuse 0.78 specular 0.55 roughness 0.006 reflection { 0.03, 0.35 fresnel on } conserve_energy } 
}
#declare Rim = texture { pigment { rgb <0.035, 0.075, 0.22> } finish { diffuse 0.8 specular 0.6 roughness 0.008 reflection { 0.03, 0.3 fresnel on } conserve_energy } }
#declare Iron_Chip = texture { pigment { granite color_map { [0 rgb <0.03, 0.025, 0.024>] [1 rgb <0.10, 0.06, 0.04>] } } finish { diffuse 0.7 } }
union {
  difference {
    union { cylinder { <0, 0.5, 0>, <0, 10.6, 0>, 5 } torus { 4.5, 0.5 translate y*0.5 } cylinder { <0, 0, 0>, <0, 0.5, 0>, 4.5 } }
    cylinder { <0, 0.7, 0>, <0, 11, 0>, 4.72 }
    Thing(Enamel, 1 + (Matte = 2))
  }
  torus { 4.86, 0.2 translate y*10.6 Thing(Rim, 1 + (Matte = 2)) }
  cylinder { <0, 0.8, 0>, <0, 8.4, 0>, 4.71 Thing(texture { pigment { rgb <0.05, 0.022, 0.01> } finish { diffuse 0.6 specular 0.5 roughness 0.01 reflection { 0.02, 0.5 fresnel on } conserve_energy } }, 1 + (Matte = 2)) }
  sphere_sweep { cubic_spline 7, <-4.6, 9.6, 0>, 0.42 <-5.2, 8.9, 0>, 0.42 <-7.3, 8.9, 0>, 0.42 <-8.2, 6.6, 0>, 0.42 <-7.1, 3.6, 0>, 0.42 <-5.2, 2.7, 0>, 0.42 <-4.6, 2.4, 0>, 0.42 tolerance 0.02
    Thing(Enamel, 1 + (Matte = 2)) rotate y*38 }
  sphere { <3.2, 4.2, -3.86>, 0.62 scale <1, 1, 1> Thing(Iron_Chip, 1 + (Matte = 2)) }
  text { ttf "timrom.ttf" "L R" 0.4, 0.1 scale <2.6, 2.8, 1> translate <-1.9, 4.2, -5.06> Thing(Rim, 1 + (Matte = 2)) }
  rotate y*20 translate <-19, 0.4, 6>
}

// The sextant: a frame of a sixth of a circle, an arm, a telescope, two mirrors.
#declare Old_Brass = texture { Brass }
#declare Black_Iron = texture { pigment { rgb 0.03 } finish { diffuse 0.7 specular 0.3 roughness 0.04 } }
#macro Spoke(A0, R0, A1, R1, W)
  cylinder { <sin(radians(A0))*R0, 1.6, cos(radians(A0))*R0>, <sin(radians(A1))*R1, 1.6, cos(radians(A1))*R1>, W }
#end
union {
  union {
    intersection {
      difference { cylinder { y*1.2, y*2.0, 17.5 } cylinder { y*1, y*2.2, 15.6 } }
      plane { -x, 0 rotate y*-35 } plane { x, 0 rotate y*35 }
    }
    Spoke(0, 0, -34, 16.2, 0.42) Spoke(0, 0, 34, 16.2, 0.42) Spoke(-34, 9, 34, 9, 0.34) Spoke(-34, 9, 0, 16, 0.3) Spoke(34, 9, 0, 16, 0.3)
    cylinder { y*1.2, y*2.4, 1.5 }
    Thing(Old_Brass, 2)
  }
  union { Spoke(0, -1, 9, 18.6, 0.5) translate y*0.9 Thing(Old_Brass, 2) }
  cylinder { <2.9, 1.8, 18.4>, <2.9, 4.0, 18.4>, 0.9 Thing(Old_Brass, 2) }
  torus { 0.9, 0.12 translate <2.9, 3.6, 18.4> Thing(Old_Brass, 2) }
  union {
    cylinder { <-9.5, 4.2, 7>, <-1.2, 4.2, 8.6>, 1.05 }
    cylinder { <-11.3, 4.2, 6.65>, <-9.5, 4.2, 7>, 1.3 }
    cylinder { <-1.6, 4.2, 8.52>, <-0.2, 4.2, 8.8>, 1.35 }
    cylinder { <-5, 1.6, 7.8>, <-5, 4.2, 7.8>, 0.4 }
    Thing(Old_Brass, 2)
  }
  box { <-1.6, 2.2, -0.16>, <1.6, 5.4, 0.16> rotate y*20 Thing(texture { pigment { rgb 0.12 } finish { reflection 0.75 diffuse 0.2 } }, 2) }
  box { <-1.2, 2, -0.14>, <1.2, 4.8, 0.14> rotate y*-35 translate <8, 0, 9> Thing(texture { pigment { rgb 0.12 } finish { reflection 0.75 diffuse 0.2 } }, 2) }
  #local I = 0; #while (I < 35)
    box { <-0.03, 2.0, 16.3>, <0.03, 2.03, 17.2> rotate y*(-34 + I*2) Thing(Black_Iron, 2) }
    #local I = I + 1; #end
  rotate y*158 translate <11, 0.8, 9>
}
// A pencil.
union {
  cylinder { <0, 0.35, 0>, <14, 0.35, 0>, 0.36 Thing(texture { pigment { rgb <0.36, 0.09, 0.05> } finish { diffuse 0.8 specular 0.3 roughness 0.02 } }, 2) }
  cone { <14, 0.35, 0>, 0.36, <15.3, 0.35, 0>, 0.06 Thing(texture { pigment { rgb <0.62, 0.45, 0.27> } }, 2) }
  rotate y*24 translate <-9, 0.75, -17>
}
// The sun, and the bars of the window in its way.
#if (Matte = 0)
  light_source { <-420, 520, 330> rgb <1.0, 0.94, 0.84>*0.62 parallel point_at <0, 0, 0> }
  #if (Bars = 1)
    #declare I = 0;
    #while (I < 3)
      box { <-4, -300, -0.5>, <4, 300, 0.5> translate <-238 + I*31, 265, 168> no_image no_reflection pigment { rgb 0 } }
      #declare I = I + 1;
    #end
    box { <-300, -5, -0.5>, <300, 5, 0.5> translate <-210, 259, 168> no_image no_reflection pigment { rgb 0 } }
  #end
#end
