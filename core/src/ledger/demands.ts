import type { AccountId } from '../ids.ts';
import { t } from '../words/t.ts';
import type { Coding } from './coding.ts';
import type { AccountType } from './kinds.ts';

/** What a coding can be demanded to have, beside its account. */
export const demandedFields = ['payeeId', 'taxCodeId', 'costCentreId', 'jobId', 'note'] as const;
export type DemandedField = (typeof demandedFields)[number];

/** What a coding can lack: also the client, which bank accounts that hold clients' money demand of every line. */
export const missableFields = [...demandedFields, 'clientId'] as const;
export type MissableField = (typeof missableFields)[number];

/** What books demand of a coding, by the type of the account it goes to. */
export type Demands = Readonly<Partial<Record<AccountType, readonly DemandedField[]>>>;

/** Demanded fields as they are named in a sentence. */
export const demandedNames: Readonly<Record<MissableField, string>> = {
  payeeId: t`a payee`,
  taxCodeId: t`a tax code`,
  costCentreId: t`a cost centre`,
  jobId: t`a job`,
  note: t`a note`,
  clientId: t`a client`,
};

/**
 * The fields that books demand of a coding and that it lacks.
 *
 * @example missingFields({ expense: ['payeeId'] }, codingWithoutPayee, () => 'expense') // ['payeeId']
 */
export function missingFields(
  demands: Demands,
  coding: Coding,
  accountType: (accountId: AccountId) => AccountType | null,
): DemandedField[] {
  const missing = coding.parts.flatMap((part) => {
    const type = accountType(part.accountId);
    const demanded = (type === null ? null : demands[type]) ?? [];
    return demanded.filter((field) => {
      const holder: Partial<Record<DemandedField, string | null | undefined>> =
        field === 'payeeId' || field === 'note' ? coding : part;
      return (holder[field] ?? '') === '';
    });
  });
  return demandedFields.filter((field) => missing.includes(field));
}

/** @example demandedWords(['payeeId', 'note']) // 'a payee and a note' */
export function demandedWords(fields: readonly MissableField[]): string {
  const names = fields.map((field) => demandedNames[field]);
  const last = names.pop() ?? '';
  return names.length === 0 ? last : t`${names.join(', ')} and ${last}`;
}
