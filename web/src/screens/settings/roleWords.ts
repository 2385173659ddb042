import type { Role } from '@zubrell/contract/books';

export const roleNames: Readonly<Record<Role, string>> = {
  client: 'Client',
  reviewer: 'Reviewer',
  bookkeeper: 'Bookkeeper',
  owner: 'Owner',
};

/** Roles with what they may do. */
export const roleWords: Readonly<Record<Role, string>> = {
  client: 'Client, answers questions',
  reviewer: 'Reviewer, sees everything',
  bookkeeper: 'Bookkeeper, codes and posts',
  owner: 'Owner, may do everything',
};
