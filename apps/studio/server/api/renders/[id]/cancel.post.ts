/** Stops a render that waits or works. */
export default defineApi((event) =>
  layAside(
    event,
    { state: 'cancelled', endedAt: new Date() },
    ['waiting', 'working', 'paused'],
    new Problem(409, 'Already ended', 'This render has ended already.'),
  ),
)
