import { chunksOf } from '@dusk/store'

/** The chunks of a render, how far they are, and which worker makes them. */
export default defineApi(async (event) => {
  const rows = await chunksOf(useServices().db, idOf(event))
  return {
    chunks: rows.map(({ n, first, end, state, drawn, worker, silent }) => ({
      n,
      first,
      end,
      state,
      drawn,
      worker,
      silent,
    })),
  }
})
