// The figurehead of a ship, carved and painted, against the wall of the museum. Matte 1: the painted face and neck; 2:
// the lips; 3: the glass eyes.
#version 3.7;
#include "still.inc"
global_settings {
  assumed_gamma 1.0
  #if (Matte = 0) radiosity { pretrace_start 0.08 pretrace_end 0.01 count 90 error_bound 0.7 recursion_limit 1 brightness 1 } #end
}
camera { perspective location <-17, 6, -74> look_at <1.0, -2.6, 0> angle 43 right x*image_width/image_height }
#if (Matte = 0)
  light_source { <-150, 120, -110> rgb <1.0, 0.965, 0.91>*0.95 area_light <60, 0, 0>, <0, 60, 0>, 4, 4 adaptive 1 }
  light_source { <130, 40, -120> rgb <0.92, 0.96, 1.0>*0.26 area_light <60, 0, 0>, <0, 60, 0>, 3, 3 adaptive 1 }
  box { <-300, -160, -300>, <300, 200, 300> hollow inverse pigment { rgb <0.42, 0.41, 0.39> } finish { diffuse 0.8 } no_shadow }
#end
// The wall behind: limewashed boards.
box { <-200, -120, 42>, <200, 140, 44>
  Thing(texture {
    pigment { wrinkles color_map { [0 rgb <0.29, 0.31, 0.31>] [0.6 rgb <0.37, 0.39, 0.385>] [1 rgb <0.43, 0.445, 0.43>] } scale <7, 24, 7> }
    normal { average normal_map { [2 gradient x 0.9 slope_map { [0 <0, 1>] [0.03 <1, 0>] [0.97 <1, 0>] [1 <0, -1>] } scale 17] [1 granite 0.25 scale <4, 20, 4>] } }
    finish { diffuse 0.85 } }, 0) }

#declare Cracks = normal { average normal_map { [1.3 granite 0.06 scale <3, 16, 3>] [0.8 wrinkles 0.07 scale <1.2, 5, 1.2>] [0.7 bumps 0.05 scale 0.5] } }
#declare Flesh = texture {
  pigment {
    granite color_map { [0 rgb <0.60, 0.405, 0.285>] [0.5 rgb <0.655, 0.455, 0.33>] [0.93 rgb <0.70, 0.50, 0.37>] [0.97 rgb <0.48, 0.33, 0.23>] [1 rgb <0.36, 0.25, 0.17>] }
    scale <9, 22, 9>
  }
  normal { Cracks } finish { diffuse 0.8 specular 0.16 roughness 0.05 }
}
#declare Lip_Red = texture { pigment { granite color_map { [0 rgb <0.42, 0.055, 0.055>] [0.9 rgb <0.50, 0.085, 0.075>] [1 rgb <0.33, 0.12, 0.09>] } scale 4 } normal { Cracks } finish { diffuse 0.8 specular 0.25 roughness 0.03 } }
#declare Hair_Brown = texture {
  pigment { granite color_map { [0 rgb <0.115, 0.062, 0.03>] [0.7 rgb <0.18, 0.10, 0.05>] [1 rgb <0.27, 0.165, 0.09>] } scale <3, 8, 3> }
  normal { granite 0.12 scale 1.2 } finish { diffuse 0.8 specular 0.15 roughness 0.05 }
}
#declare Blue_Dress = texture { pigment { granite color_map { [0 rgb <0.035, 0.085, 0.19>] [0.85 rgb <0.06, 0.125, 0.25>] [0.95 rgb <0.16, 0.17, 0.18>] [1 rgb <0.26, 0.20, 0.14>] } scale <7, 18, 7> } normal { Cracks } finish { diffuse 0.8 specular 0.15 roughness 0.05 } }
#declare Gilt = texture { pigment { granite color_map { [0 rgb <0.60, 0.40, 0.12>] [0.8 rgb <0.70, 0.49, 0.18>] [1 rgb <0.34, 0.17, 0.08>] } scale 3 } normal { granite 0.1 } finish { diffuse 0.5 specular 0.6 roughness 0.04 metallic reflection 0.12 } }

#declare F_Lump = function(x, y, z, r) { exp(-(x*x + y*y + z*z)/(r*r)) }
// A soft body of a blob, by how far it reaches along the axes; Lumps: on both sides alike.
#macro Lump(At, Reach, Strength)
  sphere { 0, 1.75, Strength scale Reach translate At }
#end
#macro Lumps(At, Reach, Strength)
  Lump(At, Reach, Strength) Lump(At*<-1, 1, 1>, Reach, Strength)
#end

// The head; x right, the face towards -z.
#declare Face = blob {
  threshold 0.62
  // Skull, jaw, neck.
  Lump(<0, 5, 2>, <9.2, 11.2, 10.5>, 1.9) Lump(<0, -5.2, 0.8>, <6.6, 6.8, 7.2>, 1.25) Lump(<0, -16, 3.2>, <4.6, 9, 5.2>, 1.15)
  // Brow, cheeks, chin.
  Lumps(<3.4, 4.9, -8.2>, <3.4, 1.25, 2.6>, 0.16) Lumps(<4.4, -2.0, -6.6>, <2.7, 2.6, 3.0>, 0.34) Lump(<0, -9.3, -7.2>, <2.3, 1.9, 2.2>, 0.42)
  // Nose: bridge, tip, wings.
  Lump(<0, 2.2, -8.9>, <1.0, 3.2, 1.7>, 0.52) Lump(<0, -0.9, -10.2>, <1.15, 1.35, 1.5>, 0.80) Lumps(<1.25, -1.35, -9.0>, <0.8, 0.85, 1.2>, 0.38)
  // Eye sockets, the groove under the nose, the corners of the mouth, the hollow under it.
  Lumps(<3.3, 2.6, -9.0>, <1.9, 1.25, 2.4>, -0.42) Lump(<0, -2.9, -9.0>, <0.45, 0.8, 1.2>, -0.12)
  Lumps(<2.5, -5.0, -8.2>, <0.8, 0.7, 1.4>, -0.10) Lump(<0, -7.3, -8.4>, <1.8, 0.6, 1.2>, -0.13)
}
object { Face
  #if (Matte = 0)
    texture { Flesh }
    // Rouge and brows, painted on.
    texture { pigment { function { F_Lump((abs(x) - 4.9)/2.6, (y + 1.9)/2.2, (z + 7)/4, 1) }
      color_map { [0 rgbt <0.62, 0.26, 0.20, 1>] [0.9 rgbt <0.62, 0.26, 0.20, 0.66>] } } normal { Cracks } finish { diffuse 0.8 } }
    texture { pigment { function { F_Lump((abs(x) - 3.4)/2.5, (y - 5.5 + 0.09*pow(abs(x) - 3.3, 2))/0.42, (z + 8)/5, 1) }
      color_map { [0.3 rgbt <0.10, 0.055, 0.03, 1>] [0.7 rgbt <0.10, 0.055, 0.03, 0.12>] } } normal { Cracks } finish { diffuse 0.8 } }
  #else
    Thing(Flesh, 1)
  #end
}
// Lips.
blob {
  threshold 0.42
  Lump(<0, -5.6, -8.7>, <2.1, 0.56, 1.0>, 0.9) Lumps(<0.85, -4.66, -8.7>, <1.35, 0.5, 1.0>, 0.8)
  Lump(<0, -5.07, -9.6>, <2.8, 0.16, 0.7>, -0.45)
  Thing(Lip_Red, 2)
}
// Glass eyes with lids.
#macro Eye(S)
  union {
    sphere { 0, 1.42
      #if (Matte = 0)
        texture {
          pigment { function { sqrt(x*x + y*y) } color_map {
            [0 rgb 0.012] [0.26 rgb 0.012] [0.27 rgb <0.16, 0.20, 0.25>] [0.43 rgb <0.30, 0.37, 0.43>] [0.50 rgb <0.07, 0.085, 0.10>] [0.52 rgb <0.74, 0.735, 0.71>] [1 rgb <0.72, 0.71, 0.68>] } }
          rotate <4, S*-5 + 6, 0>
          finish { diffuse 0.8 specular 0.9 roughness 0.002 reflection { 0.04, 0.5 fresnel on } conserve_energy }
        }
        interior { ior 1.5 }
      #else Thing(Lip_Red, 3) #end
    }
    difference {
      sphere { 0, 1.62 } sphere { 0, 1.4 }
      plane { -y, 0 translate y*0.78 rotate x*-8 inverse } 
      Thing(Flesh, 1)
    }
    difference {
      sphere { 0, 1.58 } sphere { 0, 1.4 }
      plane { y, 0 translate y*-0.86 rotate x*6 inverse }
      Thing(Flesh, 1)
    }
    scale <1.2, 1.0, 1.05> translate <S*3.4, 2.35, -7.75>
  }
#end
Eye(-1) Eye(1)
// Carved hair: waves swept back from the brow, a knot of curls at each side.
#declare Hair_Waves = normal {
  function { sin(2.1*sqrt(x*x*1.2 + (y - 19)*(y - 19)*0.55) + 1.1*sin(x*0.5) + 0.25*z) } 0.9 slope_map { [0 <0, 1>] [0.5 <1, 0>] [1 <0, -1>] } accuracy 0.01
}
blob {
  threshold 0.46
  Lump(<0, 7.2, 4.2>, <10.9, 11.4, 11.2>, 1.75) Lump(<0, -1.0, -9.5>, <8.2, 8.4, 7.0>, -1.9)
  Thing(texture { Hair_Brown normal { Hair_Waves } }, 0)
}
#macro Curl(P, R0, Turns, Tilt)
  sphere_sweep { b_spline 26,
    #local I = 0; #while (I < 26)
      #local A = 2*pi*Turns*I/25; #local Rr = R0*(1 - 0.8*I/25);
      <cos(A)*Rr, sin(A)*Rr, -0.9*I/25>, 0.62 - 0.25*I/25
    #local I = I + 1; #end
    tolerance 0.02 rotate Tilt translate P Thing(Hair_Brown, 0) }
#end
#declare I = 0;
#while (I < 5)
  Curl(<-9.6 - 0.3*I, 6 - 3.8*I, -2.5 + 1.1*I>, 2.3, 2, <10, 34, 20*I>)
  Curl(<9.6 + 0.3*I, 6 - 3.8*I, -2.5 + 1.1*I>, 2.3, -2, <10, -34, -20*I>)
  #declare I = I + 1;
#end
// A band of gilt with a star; the collar and shoulders.
torus { 10.2, 0.7 scale <1, 1, 1.1> rotate x*14 translate <0, 12.2, 2.4> Thing(Gilt, 0) }
#declare I = 0;
#while (I < 5)
  cone { <0, 0, 0>, 0.75, <0, 2.2, 0>, 0.05 scale <1, 1, 0.5> rotate z*72*I translate <0, 14.0, -8.6> Thing(Gilt, 0) }
  #declare I = I + 1;
#end
blob {
  threshold 0.5
  Lump(<0, -34, 4>, <22, 13.5, 11>, 1.5) Lumps(<9, -30, -4>, <8, 7, 7>, 0.5)
  Thing(texture { Blue_Dress normal { average normal_map { [1 Cracks] [1.5 function { sin(x*0.9 + 0.7*sin(y*0.4)) } 0.8] } } }, 0)
}
torus { 7.6, 1.0 scale <1.1, 0.9, 1> rotate x*-8 translate <0, -20.8, 2> Thing(Gilt, 0) }
#declare I = 0;
#while (I < 9)
  sphere { <0, 0, 0>, 0.95 translate <9.4*sin(radians(-64 + I*16)), -22.6 - 2.6*cos(radians(-64 + I*16)), 1 - 8.6*cos(radians(-64 + I*16))> Thing(Gilt, 0) }
  #declare I = I + 1;
#end
