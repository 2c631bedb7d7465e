// A heron as a cut-out plate: shot under a bright overcast sky with the sun from the right. Render with +UA.
#version 3.7;
global_settings{assumed_gamma 1 max_trace_level 4}
#default{finish{ambient 0 diffuse .9}}
#include "functions.inc"
camera{orthographic location<.03,.5,-8> right x*.86 up y*1.075 direction z}
light_source{<380,420,-300> rgb<1.5,1.42,1.28> parallel point_at 0 area_light x*40,y*40,4,4 adaptive 1 jitter circular orient}
#local i=0; #while(i<40) #local el=asin((i+.5)/40); #local az=i*2.399963; light_source{<cos(el)*cos(az),sin(el),cos(el)*sin(az)>*500 rgb<.9,.98,1.06>*1.5/40 parallel point_at 0} #local i=i+1; #end
light_source{<40,-400,-150> rgb<.2,.2,.17> parallel point_at 0 shadowless}
// barbs run outwards from the shaft, a dark line
#macro Vane(Dark,Light,Tip) texture{pigment{function{min(.999,max(0,.5+.5*sin(260*(x+.35*abs(y-.5)))*.35+.3*(f_noise3d(x*5,y*3,z*9)-.5)))} color_map{[0 rgb Dark][1 rgb Light]} } finish{diffuse .75,.2}}
texture{pigment{uv_mapping gradient x color_map{[0 rgbt<Dark.x,Dark.y,Dark.z,.3>][.5 rgbt<Light.x,Light.y,Light.z,1>][.88 rgbt<Tip.x,Tip.y,Tip.z,.9>][1 rgbt<Tip.x,Tip.y,Tip.z,.55>]}} finish{diffuse .75,.2}}
texture{pigment{uv_mapping gradient y color_map{[0 rgbt<Tip.x,Tip.y,Tip.z,.75>][.12 rgbt 1][.47 rgbt 1][.49 rgbt<.03,.03,.035,.35>][.51 rgbt<.03,.03,.035,.35>][.53 rgbt 1][.88 rgbt 1][1 rgbt<Tip.x,Tip.y,Tip.z,.75>]}} finish{diffuse .8}} #end
#declare T_He0=texture{pigment{rgb<.34,.35,.37>}}
#declare T_He1=Vane(<.17,.19,.22>,<.27,.295,.33>,<.42,.45,.49>)
// the neck is pale, streaked dark along its front
#declare T_He2=texture{pigment{function{min(.999,max(0,f_noise3d(x*70,y*26,z*90)))} color_map{[.25 rgb<.44,.41,.38>][.55 rgb<.62,.60,.57>][1 rgb<.72,.71,.69>]}} finish{diffuse .8}}
 texture{pigment{function{min(.999,max(0,1.6*f_noise3d(x*190,y*30,z*190)-22*abs(z)+.12))} color_map{[.55 rgbt<.05,.05,.06,1>][.66 rgbt<.05,.05,.06,.15>]}} finish{diffuse .8}}
#declare T_He3=Vane(<.035,.04,.05>,<.075,.085,.1>,<.14,.155,.175>)
#declare T_He4=texture{pigment{uv_mapping gradient x color_map{[0 rgb<.36,.38,.41>][.6 rgb<.55,.57,.59>][1 rgb<.7,.71,.72>]}} finish{diffuse .7,.25}}
#declare T_He5=texture{pigment{granite scale .05 color_map{[0 rgb<.22,.155,.05>][.5 rgb<.36,.25,.075>][1 rgb<.14,.11,.05>]}} normal{granite .15 scale .01} finish{diffuse .85 specular .2 roughness .04}}
#declare T_He6=texture{pigment{rgb<.022,.024,.032>} finish{diffuse .8 specular .25 roughness .05}}
#include "inc/heron.inc"
union{
 object{O_Heron}
 #local s=-1; #while(s<2)
 sphere{<.232,.951,s*.0165>,.0062 pigment{rgb<.72,.52,.05>} finish{specular .6 roughness .004 diffuse .8}}
 sphere{<.2325,.951,s*.0192>,.0040 pigment{rgb .008} finish{specular .9 roughness .002}}
 #local s=s+2; #end
 rotate y*16
}
