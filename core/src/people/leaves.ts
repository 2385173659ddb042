import { t } from '../words/t.ts';
import type { Role } from './roles.ts';

/** What the books' owner can leave to some roles and not to others. */
export const leaves = ['setAside', 'letRulesPost', 'close', 'reopen'] as const;
export type Leave = (typeof leaves)[number];

/** Roles that something can be left to; owners may do everything. */
export const leaveRoles = ['bookkeeper', 'reviewer'] as const satisfies readonly Role[];
export type LeaveRole = (typeof leaveRoles)[number];

/** To whom each is left. */
export type Leaves = Readonly<Record<Leave, LeaveRole[]>>;

/** To whom each is left in new books. */
export const usualLeaves: Leaves = {
  setAside: ['bookkeeper'],
  letRulesPost: ['bookkeeper'],
  close: ['bookkeeper', 'reviewer'],
  reopen: ['reviewer'],
};

/** What each is, as in "Only some roles may …". */
export const leaveWords: Readonly<Record<Leave, string>> = {
  setAside: t`exclude and delete lines`,
  letRulesPost: t`let rules post at once`,
  close: t`agree statements and close months`,
  reopen: t`reopen statements and months`,
};

/** Whether a role may do something. @example hasLeave(usualLeaves, 'reopen', 'bookkeeper') // false */
export function hasLeave(given: Leaves, leave: Leave, role: Role): boolean {
  return role === 'owner' || (given[leave] as readonly Role[]).includes(role);
}
