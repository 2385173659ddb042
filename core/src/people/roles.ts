/** What somebody may do in books, from the most to the least. */
export const roles = ['owner', 'bookkeeper', 'reviewer', 'client'] as const;
export type Role = (typeof roles)[number];

/** From which role on somebody may make accounts. */
export const accountMakers = ['bookkeeper', 'owner'] as const satisfies readonly Role[];
