import fc from 'fast-check'

// Random histories are the same ones in every short run, so that a change is judged by what it changed and not by what
// happened to be drawn. `./dusk test --long` draws anew each time, and many more; what it finds is run again by
// DUSK_SEED, the seed that it prints.
const { DUSK_LONG, DUSK_SEED } = process.env
if (DUSK_SEED || !DUSK_LONG) fc.configureGlobal({ seed: Number(DUSK_SEED ?? 1) })
