import { useCompiledKernels } from '@fabula/core/compiled'
import { runRecipe, StepCache, diffView, type Recipe } from '@fabula/core'
import { contentOf, openInput } from '@fabula/formats'
import { rolling } from '@fabula/core/testing'
useCompiledKernels()
const clinics = ['Fernhollow', 'Marlpit', 'Oxbow', 'Tarn Lane', 'Wick Green', 'Saltmarsh', 'Hollin Bank', 'Cold Ash']
const species = ['Dog', 'Cat', 'Rabbit', 'Ferret', 'Parrot']
const rows=200000
const random = rolling(7)
const lines: string[] = ["Ref,Day,Clinic,Species,Patient,Minutes,Fee,Paid"]
for (let i = 0; i < rows; i++) lines.push(`V-${i},2031-${String(1 + random(12)).padStart(2, '0')}-${String(1 + random(28)).padStart(2, '0')},${clinics[random(8)]},${species[random(5)]},Patient ${random(rows)},${5 + random(90)},${(random(20000) / 100).toFixed(2)},${random(3) > 0}`)
const src = {...await openInput([{name:'v.csv',content:contentOf((()=>{const b=Buffer.from(lines.join("\n")+"\n"); lines.length=0; return b})()),hash:'x'}],{}), key:'x'}
const cache = new StepCache()
const recipe=(person:number,draft:any)=>({fabula:1,name:'a',inputs:[{id:'visits',name:'V',columns:[...src.table.schema]}],tables:[{id:'visits',name:'V',steps:[{id:'s1',kind:'open',input:'visits',read:{}},{ id: 's2', kind: 'filter', where: { column: 'Minutes', op: 'greater', value: person % 5 } },{ id: 's3', kind: 'derive', as: 'Hours', formula: 'Minutes / 60' },{id:'s4',...draft}]}]}) as unknown as Recipe
const drafts:Record<string,(n:number)=>any>={unpivot:n=>({ kind: 'unpivot', name: `Figure ${n}`, groups: [{ columns: ['Minutes', 'Fee'], value: 'Value' }] }), filter:n=>({ kind: 'filter', where: { column: 'Fee', op: 'greater', value: n % 180 } })}
const times:number[][]=[[],[],[]]
for(let n=0;n<300;n++){ const t=performance.now(); const r=runRecipe(recipe(n%50,drafts[process.argv[2]??'unpivot']!(n)),{sources:()=>src as any,parameters:{},now:0,cache,drafts:['s4']}); const t2=performance.now()
 const steps=r.tables[0]!.steps; const v=diffView(steps,3,'changes','all',0,100); const t3=performance.now(); JSON.stringify(v.rows); const t4=performance.now()
 if(n>50){times[0]!.push(t2-t);times[1]!.push(t3-t2);times[2]!.push(t4-t3)} }
for(const v of times){v.sort((a,b)=>a-b);console.log('med',v[v.length>>1]!.toFixed(2),'p95',v[Math.floor(v.length*.95)]!.toFixed(2))}
