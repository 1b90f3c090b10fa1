const counts=new Map(); const orig=WeakMap.prototype.set
WeakMap.prototype.set=function(k,v){ const has=this.has(k); if(!has){ const s=new Error().stack.split('\n')[2].trim(); counts.set(s,(counts.get(s)??0)+1)} return orig.call(this,k,v)}
const fr=new Map(); const R=FinalizationRegistry.prototype.register; 
process.on('exit',()=>{ for(const [k,v] of [...counts].sort((a,b)=>b[1]-a[1]).slice(0,20)) console.log(v,k) })
