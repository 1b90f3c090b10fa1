import { pythonScript } from '@fabula/core'
import { kindExamples } from '@fabula/core/examples'
import { recipeOf } from '@fabula/core/testing'
let total=0, n=0
const rows:[string,number,number][]=[]
for (const {kind, examples} of kindExamples) for (const e of examples) {
  const { recipe, plan } = recipeOf(e, kind) as any
  const text = pythonScript(recipe, plan).text
  const lines = text.split('\n')
  const end = lines.findIndex((l:string)=>/^    for table, path in outputs/.test(l))+2
  const steps = recipe.tables.flatMap((t:any)=>t.steps).length
  rows.push([`${kind}: ${e.name}`, lines.length-end, steps])
  if (process.argv[2] && kind===process.argv[2]) console.log(lines.slice(lines.findIndex((l:string)=>l.startsWith('def main')), end).join('\n'))
}
const by = new Map<string,[number,number]>()
for (const [k,l,s] of rows) { const key=k.split(':')[0]!; const o=by.get(key)??[0,0]; o[0]+=l; o[1]++; by.set(key,o)}
if (!process.argv[2]) for (const [k,[l,c]] of [...by].sort((a,b)=>b[1][0]/b[1][1]-a[1][0]/a[1][1])) console.log(k.padEnd(20), (l/c).toFixed(0))
console.log('avg', rows.reduce((a,r)=>a+r[1],0)/rows.length, rows.length)
