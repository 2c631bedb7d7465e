// A rowing boat as a cut-out plate: shot at midday, under other light than the mill. Render with +UA.
#version 3.7;
global_settings{assumed_gamma 1 max_trace_level 4}
#default{finish{ambient 0 diffuse .9}}
#include "functions.inc"
camera{perspective location<3.7,1.9,-7.0> right x*1.5 up y direction z angle 26 look_at<.06,.33,0>}
// midday: hard sun high left-front, blue dome, sand bounce
light_source{<-500,800,-420> rgb<2.6,2.45,2.2> parallel point_at 0 area_light x*8,z*8,3,3 adaptive 1 jitter}
#local i=0; #while(i<28) #local el=asin((i+.5)/28); #local az=i*2.399963; light_source{<cos(el)*cos(az),sin(el),cos(el)*sin(az)>*500 rgb<.55,.70,.98>*1.5/28 parallel point_at 0} #local i=i+1; #end
light_source{<100,-400,-150> rgb<.3,.27,.22> parallel point_at 0 shadowless}
#macro Pt(A,B,CH) // paint over wood, worn
texture{pigment{uv_mapping granite scale<1.5,.03,1> color_map{[0 rgb<.10,.085,.07>][.5 rgb<.24,.205,.17>][1 rgb<.34,.30,.25>]}} normal{uv_mapping granite .5 scale<1.1,.02,1>}}
texture{pigment{uv_mapping granite scale<.5,.11,1> turbulence .2 color_map{[CH rgbt A][CH+.015 rgbt<A.x,A.y,A.z,1>]}} normal{granite .08 scale .05} finish{diffuse .9 specular .12 roughness .03}}
texture{pigment{bozo scale .35 turbulence .8 color_map{[.4 rgbt<B.x,B.y,B.z,1>][.8 rgbt<B.x,B.y,B.z,.62>]}}}
texture{pigment{function{min(.999,max(0,y*2.3+.35*(f_noise3d(x*5,y*3,z*5)-.5)+.2*(f_noise3d(x*21,y*11,z*21)-.5)))} color_map{[0 rgbt<.05,.055,.03,.15>][.22 rgbt<.07,.07,.04,.5>][.4 rgbt<.1,.09,.06,1>][1 rgbt<.1,.09,.06,1>]}}} #end
#declare T_Bt0=Pt(<.10,.23,.30>,<.30,.34,.33>,.60)
#declare T_Bt1=Pt(<.50,.49,.43>,<.25,.22,.17>,.56)
#declare T_Bt2=Pt(<.62,.60,.54>,<.30,.26,.2>,.6)
#declare T_Bt3=texture{pigment{uv_mapping granite scale<1.5,.03,1> color_map{[0 rgb<.13,.08,.045>][.5 rgb<.25,.155,.08>][1 rgb<.36,.24,.13>]}} normal{uv_mapping granite .12 scale<1,.02,1>} finish{diffuse .9 specular .2 roughness .03}}
#declare T_Bt4=texture{pigment{uv_mapping granite scale<1.5,.03,1> color_map{[0 rgb<.2,.17,.14>][.5 rgb<.33,.29,.235>][1 rgb<.44,.40,.34>]}} normal{uv_mapping granite .14 scale<1,.02,1>}}
#declare T_Bt5=texture{pigment{rgb<.09,.075,.065>} normal{granite .4 scale .02} finish{specular .4 roughness .05}}
#include "inc/boat.inc"
object{O_Boat rotate y*22}
