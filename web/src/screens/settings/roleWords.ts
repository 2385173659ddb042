import type { Role } from '@zubrell/contract/books';
import { t } from '@zubrell/core/words/t';

export const roleNames: Readonly<Record<Role, string>> = {
  client: t`Client`,
  reviewer: t`Reviewer`,
  bookkeeper: t`Bookkeeper`,
  owner: t`Owner`,
};

/** Roles with what they may do. */
export const roleWords: Readonly<Record<Role, string>> = {
  client: t`Client, answers questions`,
  reviewer: t`Reviewer, sees everything`,
  bookkeeper: t`Bookkeeper, codes and posts`,
  owner: t`Owner, may do everything`,
};
