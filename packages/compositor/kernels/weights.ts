// Weights of symmetric filters, and the sums they make.
import { held } from './pixel'

/** One of a filter's weights, for all lanes. */
// @ts-ignore: decorator
@inline
export function weight(weights: usize, k: i32): v128 {
  return held(i16x8.splat(load<i16>(weights + <usize>k * 2)))
}

/** A sum with what a neighbour on each side comes to, in 8.7 fixed point. */
// @ts-ignore: decorator
@inline
export function with2(sum: v128, before: v128, after: v128, by: v128): v128 {
  // The mean of the two with its half kept: the sum, one bit less to the left.
  return i16x8.add_sat_s(sum, i16x8.q15mulr_sat_s(i16x8.shl(i16x8.add(before, after), 6), by))
}
