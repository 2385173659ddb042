import type { Role } from '@zubrell/contract/books';

/** What somebody with a role may do. */
export const roleWords: Readonly<Record<Role, string>> = {
  client: 'answer questions only',
  reviewer: 'look at everything',
  bookkeeper: 'do the books',
  owner: 'do everything, as owner',
};
