#version 3.7;
#ifndef(NDOME) #declare NDOME=10; #end
#ifndef(SKY) #declare SKY=1; #end
#ifndef(SUN) #declare SUN=1; #end
#ifndef(LAMP) #declare LAMP=1; #end
#ifndef(DEPTH) #declare DEPTH=0; #end
#ifndef(PANO) #declare PANO=0; #end
#ifndef(STAND) #declare STAND=0; #end
#ifndef(SPANX) #declare SPANX=360; #declare SPANY=180; #end
#ifndef(STEREO) #declare STEREO=0; #end
#ifndef(VEG) #declare VEG=1; #end
#ifndef(BLUR) #declare BLUR=0; #end
#ifndef(RADIO) #declare RADIO=0; #end
#ifndef(FOCUS) #declare FOCUS=2.6; #end
// how bright each light is: 1 for a pass of its own, its share when all are rendered at once
#declare KSKY=SKY;
#declare PStand=<-3.4,1.75,13>;
global_settings{ assumed_gamma 1.0 max_trace_level (DEPTH?1:5) adc_bailout .003
#if(RADIO) radiosity{ pretrace_start .08 pretrace_end .01 count 120 nearest_count 8 error_bound .6 recursion_limit 1 low_error_factor .6 gray_threshold 0 minimum_reuse .01 brightness 1 } #end }
#default{ finish{ ambient 0 diffuse .9 } }
#include "functions.inc"
#include "inc/sunv.inc"
#include "materials.inc"
#include "inc/terrain.inc"
#include "inc/wood.inc"
#include "inc/brick.inc"
#include "inc/glass.inc"
#include "inc/nails.inc"
#include "inc/build.inc"
#include "inc/fall.inc"
#include "inc/far.inc"
#declare CamP=<STEREO,1.52,0>;
#if(PANO)
camera{ spherical angle SPANX SPANY location CamP right x*image_width/image_height up y direction z }
#else
camera{ perspective location CamP right x*1.5 up y direction z angle 63 look_at CamP+<.015,-.052,1>
#if(BLUR) aperture BLUR focal_point CamP+<0,0,FOCUS> blur_samples 7,37 variance 1/4000 confidence .9 #end }
#end
// sky: emissive HDR sphere in the SKY pass; black otherwise
#if(!DEPTH)
sphere{0,20000 hollow no_shadow pigment{ image_map{ exr "sky.exr" gamma 1.0 map_type 1 interpolate 2 } }
 finish{ diffuse 0 emission SKY } }
#if(SKY & !RADIO)
#include "inc/dome.inc"
// first-bounce ground light (shadowless, from below)
light_source{<0,-1000,0> rgb<.020,.016,.010>*1.4 parallel point_at 0 shadowless}
light_source{<600,-800,-600> rgb<.010,.008,.006> parallel point_at 0 shadowless}
#end
#if(SUN)
light_source{ SunDir*3000 rgb<3.1,1.52,.52>*1.15*SUN parallel point_at 0 area_light vnormalize(vcross(SunDir,y))*26,y*26,3,3 adaptive 0 jitter circular orient }
#end
#if(LAMP)
#declare LC=rgb<1.0,.50,.17>*LAMP;
#macro Lp(Q,I) light_source{Q LC*I fade_distance .5 fade_power 2} sphere{Q,.085 no_shadow pigment{rgb 1} finish{diffuse 0 emission LC*I*26}} #end
Lp(L1,15) Lp(L2,11) Lp(L5,9) Lp(L3,10) Lp(L4,13) Lp(L6,6) Lp(LG,9)
// bounce fill in the rooms
light_source{L1-y*1.2 LC*.5 fade_distance 2 fade_power 2 shadowless}
// door lantern
light_source{PLan2+FNv*.02 LC*7 fade_distance .4 fade_power 2}
light_source{PLan LC*6 fade_distance .4 fade_power 2}
#macro Bulb(Q) sphere{Q,.034 no_shadow pigment{rgb 1} finish{diffuse 0 emission LC*2200}} #end
Bulb(PLan2) Bulb(PLan)
#end
#if(STAND)
// a lamp on a stand, brought for the picture: on the boardwalk, out of the frame's middle
light_source{PStand rgb<1.0,.86,.66>*34 area_light x*.18,y*.18,3,3 adaptive 0 jitter circular orient fade_distance 1 fade_power 2}
#end
#macro Lant(Q) union{ cylinder{Q+y*.10,Q+y*.16,.05} cone{Q+y*.09,.12,Q+y*.15,.03} cylinder{Q-y*.13,Q-y*.1,.09} #local i=0; #while(i<6) cylinder{Q+<cos(i*pi/3)*.085,-.11,sin(i*pi/3)*.085>,Q+<cos(i*pi/3)*.085,.10,sin(i*pi/3)*.085>,.006} #local i=i+1; #end torus{.085,.006 translate Q} pigment{rgb<.02,.018,.015>} finish{specular .3} no_shadow} #end
Lant(PLan2) Lant(PLan)
// its bracket on the wall casts no shadow (the glass would soften it); the sluice lantern stands on its beam
cylinder{PLan2+y*.16,PLan2+y*.28,.012 pigment{rgb .03} no_shadow} cylinder{PLan2+y*.28,PLan2w+y*.28,.016 pigment{rgb .03} no_shadow} cylinder{PLan-y*.6,PLan-y*.13,.02 pigment{rgb .03}}
#end
object{O_Terrain texture{T_Ground}}
object{O_Brick} object{O_Mortar} object{O_Cope} object{O_Wood}
object{O_Nails pigment{rgb<.06,.04,.03>} finish{specular .4 roughness .05}}
object{O_Glass no_shadow texture{pigment{rgbt<.86,.9,.87,.94>} finish{diffuse .05 reflection{.0,.9 fresnel on} specular .3 roughness .005}} interior{ior 1.5}}
object{O_Roof} object{O_Ridge} object{O_RoofB} object{O_Rooms}
object{O_Far}
// water
#declare f_rip=function(x,z){ .30*f_noise3d(x*2.2+z*.5,1.5,z*4.6)+.20*f_noise3d(x*5.3-z*1.2,4.5,z*9.7)+.075*f_noise3d(x*13,2.5,z*21)+.02*f_noise3d(x*31,7.5,z*43) };
#declare f_patch=function(x,z){ .13+1.0*pow(max(0,f_noise3d(x*.16+3,9,z*.42)*1.2-.12),2) };
#declare T_Water=texture{ pigment{ rgbf<.80,.88,.82,.97> } normal{ function{ f_rip(x,z)*f_patch(x,z) } .16 accuracy .008 } finish{ diffuse .02 reflection{0,1 fresnel on} specular 0 conserve_energy } }
#ifndef(WN) #declare WN=1; #end
mesh{ triangle{<-400,-.42,-60>,<400,-.42,-60>,<400,-.42,500>} triangle{<-400,-.42,-60>,<400,-.42,500>,<-400,-.42,500>} texture{T_Water} interior{ior 1.33 fade_distance .22 fade_power 1001 fade_color rgb<.10,.085,.05>} no_shadow hollow }
// sluice fall
#if(!DEPTH)
#declare f_fall=function(x,y,z){ f_noise3d(x*26,y*2.2,z*26)*.6+f_noise3d(x*60,y*5,z*60)*.4 };
polygon{5, FA+FNc*.12-y*.10,FB+FNc*.12-y*.10,FB+FNc*.34-y*.44,FA+FNc*.34-y*.44,FA+FNc*.12-y*.10 no_shadow texture{pigment{function{f_fall(x,y,z)} color_map{[.35 rgbt<.8,.85,.85,.97>][.55 rgbt<.8,.85,.85,.6>][.75 rgbt<.9,.93,.93,.1>]}} normal{function{f_fall(x,y,z)} .5} finish{diffuse .75 specular .6 roughness .01}}}
#declare FX=(FA.x+FB.x)/2+FNc.x*.75; #declare FZ=(FA.z+FB.z)/2+FNc.z*.75;
disc{<FX,-.414,FZ>,y,1.15 no_shadow pigment{function{f_noise3d(x*9,0,z*9)*.5+f_noise3d(x*34,0,z*34)*.5+.42-.42*sqrt((x-FX)*(x-FX)+(z-FZ)*(z-FZ))} color_map{[.5 rgbt 1][.62 rgbt<.8,.82,.8,.75>][.8 rgbt<.9,.9,.88,.15>]}} finish{diffuse .8}}
#end
#if(VEG)
#include "inc/veg.inc"
#include "inc/inst.inc"
#end
// haze
#if(DEPTH) fog{ fog_type 1 distance DEPTH color rgb 1 } #end
