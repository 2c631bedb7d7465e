// Samphire on a wet stone from 25 cm: SUN and SKY weigh the two lights, DEPTH codes distance.
#version 3.7;
#ifndef(SUN) #declare SUN=1; #end
#ifndef(SKY) #declare SKY=1; #end
#ifndef(DEPTH) #declare DEPTH=0; #end
global_settings{assumed_gamma 1 max_trace_level (DEPTH?1:4) adc_bailout .004}
#default{finish{ambient 0 diffuse .9}}
#include "functions.inc"
#include "inc/sunv.inc"
#declare KSKY=1.6*SKY; #declare NDOME=10;
#declare CamP=<-.035,.095,-.205>;
#declare Tgt=<.004,.036,.0>;
camera{perspective location CamP right x*1.5 up y direction z angle 33 look_at Tgt}
#if(!DEPTH)
#if(SKY)
sphere{0,20000 hollow no_shadow pigment{image_map{exr "sky.exr" gamma 1.0 map_type 1 interpolate 2}} finish{diffuse 0 emission SKY} rotate y*-35}
#include "inc/dome.inc"
light_source{<0,-1000,0> rgb<.03,.024,.015>*1.6*SKY parallel point_at 0 shadowless}
#end
#if(SUN)
light_source{vrotate(SunDir,<0,-35,0>)*100 rgb<3.1,1.6,.58>*1.9*SUN parallel point_at 0 area_light vnormalize(vcross(SunDir,y))*1.2,y*1.2,3,3 adaptive 0 jitter circular orient}
#end
#end
#declare T_Sa=texture{ pigment{uv_mapping gradient x color_map{[0 rgb<.10,.17,.03>][.25 rgb<.16,.28,.05>][.8 rgb<.22,.34,.07>][.93 rgb<.34,.40,.12>][1 rgb<.12,.16,.03>]}} normal{average normal_map{[1 granite .10 scale .004][1 bumps .10 scale .00045]}} finish{diffuse .58,.34 specular .35 roughness .02 reflection{.0,.25 fresnel on} conserve_energy}}
 texture{ pigment{bozo scale .011 turbulence .6 color_map{[.45 rgbt<.35,.06,.04,1>][.75 rgbt<.36,.07,.05,.45>]}} finish{diffuse .5,.3} }
#declare T_SaR=texture{ pigment{uv_mapping gradient x color_map{[0 rgb<.22,.10,.04>][.4 rgb<.30,.12,.07>][1 rgb<.38,.16,.09>]}} normal{bumps .1 scale .0006} finish{diffuse .58,.34 specular .35 roughness .02 reflection{0,.25 fresnel on} conserve_energy}}
#declare T_SaB=texture{ pigment{granite scale .006 color_map{[0 rgb<.11,.07,.04>][1 rgb<.24,.15,.08>]}} normal{granite .4 scale .004} finish{diffuse .8}}
#include "inc/close.inc"
#declare T_St=texture{pigment{granite scale .055 turbulence .2 color_map{[0 rgb<.022,.022,.024>][.35 rgb<.052,.05,.05>][.6 rgb<.085,.08,.076>][.74 rgb<.16,.15,.14>][.8 rgb<.07,.066,.065>][1 rgb<.035,.034,.036>]}} normal{granite .25 scale .006} finish{diffuse .9 specular .25 roughness .012 reflection{.0,.7 fresnel on} conserve_energy}}
 texture{pigment{granite scale .012 color_map{[.0 rgbt<.25,.235,.22,.3>][.22 rgbt<.2,.19,.18,1>][.75 rgbt<.02,.02,.02,1>][1 rgbt<.01,.01,.012,.2>]}} finish{diffuse .9}}
 texture{pigment{bozo scale .05 turbulence .9 lambda 2.6 color_map{[.55 rgbt<.06,.075,.02,1>][.72 rgbt<.05,.06,.018,.35>]}} finish{diffuse .9}}
object{O_Stone texture{T_St} interior{ior 1.36}}
object{O_Drops texture{pigment{rgbf<.97,.98,.97,.98>} finish{diffuse 0 reflection{0,1 fresnel on} specular .6 roughness .003 conserve_energy}} interior{ior 1.33} no_shadow}
object{O_S1 scale 1.0 translate<0,-.002,.012> interior{ior 1.38}}
object{O_S2 scale .95 rotate y*70 translate<.05,-.003,.075> interior{ior 1.38}}
object{O_S1 scale .9 rotate y*160 translate<-.075,-.004,.15> interior{ior 1.38}}
object{O_S2 scale .8 rotate y*200 translate<.10,-.01,.035> interior{ior 1.38}}
// puddle
plane{y,-.0035 texture{pigment{rgbf<.9,.93,.9,.95>} normal{bumps .012 scale .02} finish{diffuse .01 reflection{0,1 fresnel on} conserve_energy}} interior{ior 1.33 fade_distance .02 fade_power 1001 fade_color<.1,.09,.06>} no_shadow hollow}
plane{y,-.2 pigment{granite scale 2 color_map{[0 rgb<.02,.018,.013>][1 rgb<.05,.043,.03>]}}}
#if(DEPTH) fog{ fog_type 1 distance DEPTH color rgb 1 } #end
