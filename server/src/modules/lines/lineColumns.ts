import type { BankAccountId } from '@zubrell/core/ids';
import type { HabitLine } from '@zubrell/core/propose/habit/features';
import type { RuleFacts } from '@zubrell/core/propose/rule/rule';
import { z } from 'zod';
import { idRow } from '../../db/rows.ts';

/** The columns of lines that habits read, for the schemas of rows. */
export const habitLineColumns = {
  date: z.string(),
  /** In positive, out negative, in minor units. */
  amount: z.int(),
  description: z.string(),
  reference: z.string().nullable(),
  /** The other side, where the bank names it apart. */
  payee: z.string().nullable(),
  bankAccountId: idRow<BankAccountId>(),
} satisfies Record<keyof HabitLine, z.ZodType>;

/** The columns of lines that rules read. */
export const ruleFactColumns = {
  ...habitLineColumns,
  counterparty: z.string().nullable(),
  type: z.string().nullable(),
  chequeNumber: z.string().nullable(),
  category: z.string().nullable(),
} satisfies Record<keyof RuleFacts, z.ZodType>;
