#include "solid/build_skin.hpp"
#include "solid/solid.hpp"
#include "model/edit.hpp"
#include <chrono>
#include <cstdio>
#include <iostream>
using namespace whorl; using namespace whorl::solid;
using C=std::chrono::steady_clock; static double ms(C::time_point a){return std::chrono::duration<double,std::milli>(C::now()-a).count();}
static void go(const char*what,const char*near,const char*far){
 try{
  Job j=add_piece({},parse_designation(what)); 
  j=apply(j,{0,0,Field::near_end,near,{}}); j=apply(j,{0,0,Field::far_end,far,{}});
  auto p=resolve_piece(j.pieces[0],{});
  auto t=C::now(); Skin s=build_skin(p); double a=ms(t);
  require_closed(s);
  t=C::now(); Mesh m=triangulate(s,64); double b=ms(t);
  require_watertight(m);
  t=C::now(); Solid so=make_solid(s); double c=ms(t);
  t=C::now(); bool v=is_valid(so); double d=ms(t);
  double kv=kernel_volume(so);
  printf("%-28s %-14s %-14s skin %.2f mesh %.2f (%zu) solid %.2f check %.1f valid %d vol %.8g rel kernel %.1e mesh %.1e faces %zu edges %zu\n",what,near,far,a,b,m.triangles.size(),c,d,v,volume(s),kv/volume(s)-1,volume(m)/volume(s)-1,s.faces.size(),s.edges.size());
 }catch(std::exception&e){printf("%s %s %s: %s\n",what,near,far,e.what());}
}
int main(){
 for(auto w:{"M10x1.5-6g x 30","M10x1.5-6g LH x 30","M16xPh4P2-6g x 40","1/2-13 UNC-2A (3 starts) LH x 2","M10x1.5-6g x 2","round 12 x 20","M8x1 x 20","M8x1 x 100"})
  for(auto n:{"flat","chamfer 45","chamfer 30 9.5","chamfer 70","run-out 0.5","run-out 1.2"}) for(auto f:{"flat","chamfer 45","chamfer 45 9.2","run-out 0.5","run-out 1.3","chamfer 15"}) go(w,n,f);
}
