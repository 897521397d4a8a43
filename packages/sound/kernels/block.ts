/** Samples of a block: QUANTUM in the effects. */
export const BLOCK: i32 = 128

/** The block that is worked on: single precision, left and right. */
export const LEFT: usize = memory.data(BLOCK * 4)
export const RIGHT: usize = memory.data(BLOCK * 4)
