import equal from 'fast-deep-equal'

/** Whether two pieces of plain JSON data are equal, the order of keys aside. */
export const sameData: (a: unknown, b: unknown) => boolean = equal
