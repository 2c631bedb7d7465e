// Three enamel mugs and a card of 24 patches on a table: WINDOW and LAMP weigh the two lights, DEPTH codes distance.
#version 3.7;
#ifndef(WINDOW) #declare WINDOW=1; #end
#ifndef(LAMP) #declare LAMP=1; #end
#ifndef(DEPTH) #declare DEPTH=0; #end
global_settings{assumed_gamma 1 max_trace_level (DEPTH?1:7)}
#default{finish{ambient 0 diffuse .9}}
#include "functions.inc"
camera{perspective location<.03,.36,-.86> right x*1.5 up y direction z angle 36 look_at<-.005,.085,.02>}
#declare WL=rgb<.86,.97,1.12>;
#declare LL=rgb<1,.52,.2>;
#if(WINDOW)
// six panes at the left, and the light that they let in
union{ #local i=0; #while(i<2) #local j=0; #while(j<3) box{<-1.9,.25+j*.34,-.75+i*.52>,<-1.91,.25+j*.34+.31,-.75+i*.52+.48>} #local j=j+1; #end #local i=i+1; #end pigment{gradient y scale 1.4 color_map{[0 rgb WL*.55][.4 rgb WL][1 rgb WL*1.2]}} finish{diffuse 0 emission 5.5*WINDOW} no_shadow}
light_source{<-1.89,.78,-.24> WL*2.6*WINDOW area_light y*1.0,z*1.0,7,7 adaptive 1 jitter fade_distance 1.6 fade_power 2}
// what the room sends back
light_source{<.6,2.0,-.6> rgb<.50,.52,.55>*.16*WINDOW area_light x*1.6,z*1.6,5,5 adaptive 1 jitter}
light_source{<1.8,.7,-.9> rgb<.55,.5,.44>*.10*WINDOW area_light y*1.2,z*1.2,5,5 adaptive 1 jitter}
light_source{<0,-1,-.3> rgb<.20,.12,.07>*.22*WINDOW shadowless}
#end
#if(LAMP)
light_source{<1.15,.62,.30> LL*.9*LAMP area_light x*.14,y*.14,5,5 adaptive 1 jitter circular orient fade_distance .7 fade_power 2}
light_source{<.2,1.6,.2> LL*.03*LAMP area_light x*1.6,z*1.6,4,4 adaptive 1 jitter}
sphere{<1.15,.62,.30>,.07 no_shadow pigment{rgb 1} finish{diffuse 0 emission LL*180*LAMP}}
#end
box{<-3,-.8,-2.4>,<2.6,2.3,2.1> hollow inverse pigment{bozo scale .7 turbulence .7 color_map{[.2 rgb<.30,.28,.25>][.8 rgb<.42,.39,.35>]}} normal{granite .15 scale .3} finish{diffuse .8}}
#include "inc/table.inc"
#macro EnB(C) pigment{C} normal{average normal_map{[2 bumps .035 scale .03][1 bumps .02 scale .008]}} finish{diffuse .86 reflection{0,1 fresnel on} specular 0 conserve_energy} #end
#macro Enam(C) texture{EnB(C)} #end
#macro Chip(S,A) texture{pigment{function{f_noise3d(x*95+S,y*95,z*95)*.62+f_noise3d(x*240,y*240,z*240+S)*.38} color_map{[A rgbt<.02,.018,.018,1>][A+.012 rgbt<.02,.018,.018,0>][A+.05 rgbt<.05,.028,.018,0>]}} finish{diffuse .9 specular .1}}#end
#macro Mug(C,RimC,S,Rot) union{
 lathe{cubic_spline 19,<0,.004>,<.0,.002>,<.030,.0015>,<.0365,.0025>,<.0398,.006>,<.0405,.012>,<.0405,.040>,<.0405,.070>,<.0407,.0785>,<.0418,.0808>,<.0424,.0822>,<.0420,.0836>,<.0408,.0836>,<.0398,.0820>,<.0394,.078>,<.0392,.040>,<.0390,.010>,<.036,.0052>,<.0,.0042>
 texture{gradient y texture_map{[.0798 EnB(C)][.0802 EnB(RimC)]} scale 1} interior{ior 1.5}}
 torus{.0412,.0017 translate y*.0822 Enam(RimC) Chip(S,.70) interior{ior 1.5}}
 sphere_sweep{b_spline 8,<.034,.074,0>,.0042 <.039,.071,0>,.0043 <.052,.0715,0>,.0042 <.066,.064,0>,.0040 <.068,.046,0>,.0040 <.058,.030,0>,.0041 <.040,.025,0>,.0042 <.034,.024,0>,.0042 scale<1,1,1.7> Enam(C) Chip(S+3,.745) interior{ior 1.5}}
 rotate y*Rot }#end
object{Mug(rgb<.80,.79,.745>,rgb<.012,.018,.05>,1,-38) translate<-.145,0,-.02>}
object{Mug(rgb<.185,.19,.19>,rgb<.015,.015,.017>,7,-150) translate<-.015,0,.055>}
object{Mug(rgb<.012,.012,.0135>,rgb<.5,.49,.46>,13,-20) translate<.115,0,-.03>}
// a printed card of 24 patches: reflectances as published for such charts (McCamy, Marcus and Davidson 1976), linear sRGB by Bradford; the red of cyan lies outside
#declare Cols=array[24]{rgb<.1761,.0825,.0555>,rgb<.5563,.3121,.2299>,rgb<.1173,.1999,.3458>,rgb<.0948,.1531,.0527>,rgb<.2350,.2225,.4516>,rgb<.1298,.5234,.4141>,rgb<.6982,.2101,.0222>,rgb<.0702,.1057,.3924>,rgb<.5563,.0968,.1273>,rgb<.1124,.0419,.1537>,rgb<.3509,.5136,.0453>,rgb<.7766,.3697,.0244>,rgb<.0297,.0439,.3086>,rgb<.0578,.3055,.0643>,rgb<.4486,.0289,.0424>,rgb<.8298,.5812,.0115>,rgb<.5159,.0892,.3105>,rgb<0,.2460,.3894>,rgb<.9000,.9000,.9000>,rgb<.5910,.5910,.5910>,rgb<.3620,.3620,.3620>,rgb<.1977,.1977,.1977>,rgb<.0900,.0900,.0900>,rgb<.0313,.0313,.0313>}
union{ box{<-.148,0,0>,<.148,.205,.0032> pigment{rgb .018} finish{diffuse .9 specular .08 roughness .04}}
 #local i=0; #while(i<24) #local cx=-.1195+mod(i,6)*.0478; #local cy=.181-div(i,6)*.0478; box{<cx-.0205,cy-.0205,-.0004>,<cx+.0205,cy+.0205,.001> pigment{granite scale .02 color_map{[0 rgb Cols[i]*.97][1 rgb Cols[i]*1.02]}} finish{diffuse .93}} #local i=i+1; #end
 rotate x*17 rotate y*7 translate<-.02,.058,.165>}
box{<-.17,.0,.15>,<.13,.0575,.215> pigment{granite scale<.3,.02,.02> color_map{[0 rgb<.05,.03,.018>][.5 rgb<.16,.10,.055>][1 rgb<.22,.15,.09>]}} normal{granite .12 scale<.2,.03,.03>} rotate y*6}
box{<-.06,0,.235>,<.06,.12,.27> pigment{rgb<.2,.15,.1>}}
#if(DEPTH) fog{ fog_type 1 distance DEPTH color rgb 1 } #end
