// The warden with a lantern, as a cut-out. DUSK=1: in the light of the mill's evening, lantern lit; otherwise under a grey noon sky.
// Render with +UA. The picture is 1.5 m wide and 2 m high, feet 0.05 m above its lower edge.
#version 3.7;
#ifndef(DUSK) #declare DUSK=1; #end
global_settings{assumed_gamma 1 max_trace_level 5}
#default{finish{ambient 0 diffuse .9}}
#include "functions.inc"
#include "inc/sunv.inc"
camera{orthographic location<.12,.95,-8> right x*1.5 up y*2 direction z}
#include "inc/lantern.inc"
#if(DUSK)
#declare KSKY=.24; #declare NDOME=10;
#include "inc/dome.inc"
light_source{<-50,-400,-300> rgb<.12,.11,.1> parallel point_at 0 shadowless}
light_source{vrotate(SunDir,<0,0,0>)*3000 rgb<3.1,1.52,.52>*.09 parallel point_at 0 area_light x*60,y*60,3,3 adaptive 1 jitter circular orient}
#declare Flame=1;
#else
#local i=0; #while(i<40) #local el=asin((i+.5)/40); #local az=i*2.399963; light_source{<cos(el)*cos(az),sin(el),cos(el)*sin(az)>*500 rgb<.92,.98,1.06>*2.4/40 parallel point_at 0} #local i=i+1; #end
light_source{<350,500,-300> rgb<.9,.86,.78> parallel point_at 0 area_light x*50,y*50,4,4 adaptive 1 jitter circular orient}
light_source{<0,-400,-100> rgb<.25,.23,.2> parallel point_at 0 shadowless}
#declare Flame=1;
#end
light_source{Lantern rgb<1,.5,.17>*.9*Flame area_light x*.05,y*.05,3,3 adaptive 1 jitter circular orient fade_distance .25 fade_power 2}
#macro Weave(C,S) texture{pigment{function{min(.999,max(0,.5+.5*(f_noise3d(x*260*S,y*170*S,z*260*S)-.5)+.6*(f_noise3d(x*24,y*24,z*24)-.5)))} color_map{[0 rgb C*.62][1 rgb C*1.3]}} normal{granite .25 scale .02} finish{diffuse .85}} #end
#declare T_Wa0=Weave(rgb<.055,.060,.052>,1)
#declare T_Wa1=Weave(rgb<.062,.052,.044>,1)
#declare T_Wa2=texture{pigment{bozo scale .05 color_map{[0 rgb<.018,.013,.01>][1 rgb<.045,.034,.026>]}} normal{granite .15 scale .03} finish{diffuse .8 specular .3 roughness .03}}
#declare T_Wa3=texture{pigment{bozo scale .03 color_map{[0 rgb<.30,.165,.115>][1 rgb<.38,.22,.16>]}} normal{granite .05 scale .01} finish{diffuse .85 specular .12 roughness .05}}
#declare T_Wa4=Weave(rgb<.07,.062,.055>,1.4)
#declare T_Wa6=texture{pigment{granite scale<.02,.06,.02> color_map{[0 rgb<.05,.042,.036>][1 rgb<.13,.115,.1>]}} finish{diffuse .8 specular .1}}
#declare T_Wa5=Weave(rgb<.20,.045,.03>,.7)
#include "inc/walker.inc"
object{O_Walker}
// the lantern: foot, cage, glass, flame and a ring to hold it by
union{
 cylinder{Lantern-y*.105,Lantern-y*.075,.062} cone{Lantern+y*.07,.064,Lantern+y*.115,.022} cylinder{Lantern+y*.115,Lantern+y*.135,.016}
 #local i=0; #while(i<6) cylinder{Lantern+<cos(i*pi/3)*.056,-.08,sin(i*pi/3)*.056>,Lantern+<cos(i*pi/3)*.056,.075,sin(i*pi/3)*.056>,.0035} #local i=i+1; #end
 torus{.06,.0045 translate Lantern} torus{.032,.0035 rotate x*90 translate Lantern+y*.165}
 pigment{rgb<.03,.027,.023>} finish{diffuse .8 specular .35 roughness .02} no_shadow}
cylinder{Lantern-y*.07,Lantern+y*.07,.05 open no_shadow pigment{rgb 1} finish{diffuse 0 emission rgb<1,.52,.18>*5*Flame}}
sphere{0,1 scale<.012,.026,.012> translate Lantern-y*.02 no_shadow pigment{rgb 1} finish{diffuse 0 emission rgb<1,.62,.28>*60*Flame}}
