import { measurePage } from './page'
for (let i = 0; i < 5; i++) { const r = await measurePage(); console.log(r.cold.toFixed(0), r.drag.toFixed(1)) }
