import { reels } from '../reel.ts'
for (const r of await reels()) console.log(r.what.slice(0, 60), r.measured)
