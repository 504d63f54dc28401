import { photographs } from '/work/main/bench/truth/photographs.ts';
import { heldBackPhotographs } from '/work/main/bench/truth/held-back-photographs.ts';
import { photographOf } from '/work/main/bench/truth/photograph.ts';
import { CutPicture } from '/work/main/core/cut/cut-picture.ts';
import { CutSession } from '/work/main/core/cut/subject.ts';
import { learnedLook } from '/work/main/cli/learned.ts';
import { intersectionOverUnion } from '/work/main/bench/measures.ts';
import { squaredDistance } from '/work/main/core/pixels/distance.ts';
const look = await learnedLook();
let sums=[0,0,0]; let n=0;
for (const [list, held] of [[photographs, 0], [heldBackPhotographs, 1]] as const) for (const ph of list) {
  const scene = await photographOf(ph, 900);
  const s = new CutSession(new CutPicture(scene.picture, look));
  const { width, height } = scene.alpha;
  const inv = Uint8Array.from(scene.alpha.data, (v)=> v>127?0:1);
  const d = squaredDistance({width,height,data:inv} as never);
  let best=0,bi=0; for(let i=0;i<d.data.length;i++) if(d.data[i]!>best&&d.data[i]!<1e9){best=d.data[i]!;bi=i;}
  const [x,y]=[bi%width,Math.floor(bi/width)];
  const solve=(keep:any[])=>intersectionOverUnion(s.solve({answer:'subject',keep,drop:[],box:null}).mask,scene.alpha);
  const a=solve([]);
  const s2 = new CutSession(new CutPicture(scene.picture, look));
  const dot=(r:number)=>({points:[[x,y,1],[x+0.5,y,1]],radius:r,hardness:1,turn:1});
  const ex = Object.keys((await import('/work/main/core/cut/subject.ts')));
  let b=0; try{ b=intersectionOverUnion(s2.solve({answer:'subject',keep:[{points:[x,y,x+1,y],width:16,within:true,turn:1} as never],drop:[],box:null}).mask,scene.alpha);}catch(e){console.log(ex, e); process.exit(1)}
  sums[0]+=a;sums[1]+=b;n++;
  console.log(scene.name.padEnd(50),a.toFixed(3),b.toFixed(3));
}
console.log(sums.map(v=>(v/n).toFixed(3)));
