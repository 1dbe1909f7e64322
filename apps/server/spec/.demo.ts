import { emptyDatabase } from './house.js';
import { loadDemoHouse } from '../src/demo/loadDemoHouse.js';
import { readFloor } from '../src/read/floor.js';
import { applyRules } from '../src/record/applyRules.js';
const c = await emptyDatabase('demo_try');
let t = performance.now(); const now = new Date();
await loadDemoHouse(c.db, now); console.log('loaded', Math.round(performance.now()-t));
console.log('rules', await applyRules(c.db, now));
t = performance.now(); const floor = await readFloor(c.db, now); console.log('floor', Math.round(performance.now()-t));
for (const v of floor.vessels) console.log(v.vesselTag, v.day, v.lastPh, v.trend.direction, v.lateness.state, v.hold ?? '', '|', v.checks.filter(c=>c.state==='due'||c.state==='late').map(c=>c.name+':'+c.state+(c.missed?` m${c.missed}`:'')).join(', '), v.odd?'ODD':'');
for (let i=0;i<4;i++){ t=performance.now(); await readFloor(c.db, now); console.log('floor', Math.round(performance.now()-t)); }
await c.close();
