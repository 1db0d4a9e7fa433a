// The keyboard of the station's harmonium, from the player's left. Matte 1: the naturals; 2: two of them that are to be
// stained. Yellow and stains are put in afterwards.
#version 3.7;
#include "still.inc"
global_settings {
  assumed_gamma 1.0
  #if (Matte = 0) radiosity { pretrace_start 0.08 pretrace_end 0.01 count 180 error_bound 0.55 recursion_limit 2 brightness 1 } #end
}
camera {
  perspective location <-9.5, 16.5, -19.5> look_at <8.2, 0.1, 7.5> angle 47 right x*image_width/image_height
  #if (Matte = 0 & Sharp_Everywhere = 0) focal_point <7, 0, 4> aperture 0.7 blur_samples 12 variance 1/2000 confidence 0.9 #end
}
#if (Matte = 0)
  background { rgb <0.16, 0.15, 0.14> }
  // A tall window to the left and behind, a pale wall to the right.
  light_source { <-130, 120, 60> rgb <1.0, 0.97, 0.92>*1.35 area_light <60, 0, 30>, <0, 80, 0>, 3, 3 adaptive 1 jitter }
  light_source { <40, 110, -150> rgb <0.95, 0.97, 1.0>*0.22 area_light <70, 0, 0>, <0, 60, 0>, 3, 3 adaptive 1 }
  plane { y, -60 pigment { rgb <0.06, 0.045, 0.035> } finish { diffuse 0.7 } }
  box { <-400, -90, -300>, <400, 260, 300> hollow inverse pigment { rgb <0.46, 0.445, 0.415> } finish { diffuse 0.8 } no_shadow }
#end

#declare Step = 2.36;
#declare Shade = function(k) { 0.5 + 0.5*sin(k*12.9898)*cos(k*4.1414) }
#macro Ivory(K)
  texture {
    pigment {
      gradient z
      color_map { #local W = 0.93 + 0.06*Shade(K);
        [0 rgb <0.80, 0.785, 0.735>*W] [0.45 rgb <0.82, 0.805, 0.755>*W] [1 rgb <0.78, 0.765, 0.71>*W] }
      warp { turbulence <0.06, 0, 0.9> octaves 4 } scale <3, 1, 15> translate x*K*7
    }
    normal { average normal_map { [1 granite 0.035 scale <0.5, 1, 9>] [1 bumps 0.04 scale 0.8] } }
    finish { diffuse 0.82 specular 0.32 roughness 0.018 reflection { 0.01, 0.10 fresnel on } conserve_energy }
  }
#end
#macro Natural(K)
  #local Tilt = 0.22*(Shade(K*3.1) - 0.5);
  union {
    object { Round_Box(<0.06, -2.1, 0>, <Step - 0.06, 0, 16>, 0.14, 0) }
    object { Round_Box(<0.06, -0.42, -0.45>, <Step - 0.06, 0, 1>, 0.12, 0) }
    #if (Matte = 2) Thing(Ivory(K), 2*(K = 6 | K = 9) + 9*(K != 6 & K != 9)) #else Thing(Ivory(K), 1) #end
    rotate x*Tilt translate <K*Step, 0.06*(Shade(K*7.7) - 0.5), 0>
  }
#end
#declare Ebony = texture {
  pigment { wood color_map { [0 rgb <0.014, 0.012, 0.011>] [1 rgb <0.034, 0.028, 0.025>] } turbulence 0.1 scale <0.3, 0.3, 6> }
  normal { granite 0.06 scale <0.3, 0.3, 5> }
  finish { diffuse 0.8 specular 0.35 roughness 0.03 reflection { 0.02, 0.2 fresnel on } conserve_energy }
}
#macro Sharp(K)
  prism { linear_sweep linear_spline 0, 10.4, 7
    <-0.58, -1>, <0.58, -1>, <0.55, 0.4>, <0.40, 1.02>, <-0.40, 1.02>, <-0.55, 0.4>, <-0.58, -1>
    rotate x*-90 scale <1, 1, -1>
    clipped_by { plane { <0, 0.55, -0.9>, 0 translate <0, 1.02, 0.7> } }
    Thing(Ebony, 0) translate <K*Step, 0, 5.6> }
  // Its sloping front.
  polygon { 5, <-0.575, -1, 0>, <0.575, -1, 0>, <0.44, 1.02, 0.70>, <-0.44, 1.02, 0.70>, <-0.575, -1, 0> Thing(Ebony, 0) translate <K*Step, 0, 5.55> }
#end
#declare K = -6;
#while (K < 24)
  Natural(K)
  #local N = mod(K + 70, 7);
  #if (N != 2 & N != 6) Sharp(K + 1) #end
  #declare K = K + 1;
#end
// Felt behind the keys, the fall board with its brass, the slip before the keys, the bed below.
box { <-20, -1, 15.4>, <62, 0.55, 16.2> Thing(Felt, 0) }
box { <-20, -3, -3>, <62, -2.2, 17> Thing(Felt, 0) }
union {
  object { Round_Box(<-20, -6, -3.6>, <62, -1.35, -1.0>, 0.35, 0) }
  cylinder { <-20, -1.35, -2.3>, <62, -1.35, -2.3>, 0.55 }
  Thing(Dark_Wood, 0)
}
union {
  box { <-20, 0.6, 16.2>, <62, 14, 18> }
  object { Round_Box(<-20, 0.5, 15.7>, <62, 1.5, 18>, 0.4, 0) }
  cylinder { <-20, 7.6, 16.2>, <62, 7.6, 16.2>, 0.32 }
  Thing(Dark_Wood, 0)
}
#declare I = 0;
#while (I < 6)
  union {
    cylinder { <0, 4.4, 16.3>, <0, 4.4, 15.0>, 0.55 }
    cylinder { <0, 4.4, 15.0>, <0, 4.4, 14.6>, 1.05 }
    sphere { 0, 1.05 scale <1, 1, 0.35> translate <0, 4.4, 14.6> }
    Thing(Dark_Wood, 0) translate x*(14 + I*5.2)
  }
  torus { 1.0, 0.13 rotate x*90 translate <14 + I*5.2, 4.4, 14.75> Thing(Brass, 0) }
  #declare I = I + 1;
#end
union {
  object { Round_Box(<-4.4, 2.6, 15.95>, <7.6, 6.0, 16.4>, 0.12, 0) }
  #local P = 0; #while (P < 4) sphere { <-3.9 + 11*mod(P, 2), 3.1 + 2.4*floor(P/2), 15.95>, 0.22 } #local P = P + 1; #end
  Thing(Brass, 0)
}
text { ttf "timrom.ttf" "LANTERN ROCK" 0.1, 0 scale <1.35, 1.45, 1> translate <-3.7, 3.85, 15.88> Thing(Ebony, 0) }
// The cheek at the left end.
object { Round_Box(<-17.5, -6, -3.6>, <-14.4, 3.4, 17>, 0.5, 0) Thing(Dark_Wood, 0) }
