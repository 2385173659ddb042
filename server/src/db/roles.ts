/** Owns the tables and migrates. */
export const ownerRole = 'zubrell_owner';

/** What the running program signs in as; row-level security binds it. Named in the migrations. */
export const runtimeRole = 'zubrell_app';
