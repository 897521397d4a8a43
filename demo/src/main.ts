import { makeMedia } from './make'

/** `node --import tsx demo/src/main.ts FOLDER [PART PARTS]`: makes the demo's media; prints its progress as numbers. */
const [folder, part = '0', parts = '1'] = process.argv.slice(2)
let last = 0
await makeMedia(
  folder!,
  (done, all) => {
    if (Date.now() - last < 300 && done < all) return
    last = Date.now()
    process.stdout.write(`${done} ${all}\n`)
  },
  Number(part),
  Number(parts),
)
