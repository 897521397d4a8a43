/** Lays a render aside: what it has made so far is kept, and `resume` goes on from there. */
export default defineApi((event) =>
  layAside(
    event,
    { state: 'paused' },
    ['waiting', 'working'],
    new Problem(409, 'Not under way', 'This render is not under way: there is nothing to pause.'),
  ),
)
