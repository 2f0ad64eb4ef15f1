#include "exchange/export.hpp"
#include <cstdio>
#include <chrono>
int main(int c,char**v){ for(int i=1;i<c;i++){auto t=std::chrono::steady_clock::now(); auto r=whorl::read_step(v[i]); printf("%s solids %d valid %d vol %.6f name '%s' %.0f ms\n",v[i],r.solids,r.valid,r.volume,r.name.c_str(),std::chrono::duration<double,std::milli>(std::chrono::steady_clock::now()-t).count());} }
