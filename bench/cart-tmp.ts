import { prepare } from '@/core/engine/prepare'
import { largeStore } from './large-store'
import { median } from './measure'
import { measureTerms } from './terms'
const AT = Date.parse('2027-03-15T12:00:00Z')
const prepared = prepare(largeStore({ variants: 100_000, lists: 1_000, linesPerList: Number(process.env.LINES ?? 1000), accounts: 200 }))
const samples = await measureTerms(prepared, AT, Number(process.env.REPS ?? 15))
for (const [name, values] of samples) console.log(name, median(values).toFixed(3), 'ms; min', Math.min(...values).toFixed(3))
