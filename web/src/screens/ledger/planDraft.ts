import type { GivenJournalPlan, JournalPlan } from '@zubrell/contract/journals';
import type { Entry } from '@zubrell/contract/ledger';
import type { PayeeId } from '@zubrell/core/ids';
import { type Rhythm, recurringDate } from '@zubrell/core/ledger/recurring';
import { t } from '@zubrell/core/words/t';
import { completeLegs, type HandDraft } from './handForm.ts';

/** A recurring journal as it is being typed. */
export interface PlanDraft {
  readonly name: string;
  readonly payeeId: PayeeId | null;
  readonly note: string;
  readonly legs: HandDraft['legs'];
  readonly rhythm: Rhythm;
  readonly startDate: string;
  /** Empty where it goes on. */
  readonly endDate: string;
  readonly isReversing: boolean;
}

export const rhythmNames: Readonly<Record<Rhythm, string>> = {
  month: t`Every month`,
  quarter: t`Every quarter`,
  year: t`Every year`,
};

/** What a recurring journal begins with. @param startDate its first date */
export function emptyPlan(startDate: string): PlanDraft {
  return {
    name: '',
    payeeId: null,
    note: '',
    legs: [
      { accountId: null, amount: null },
      { accountId: null, amount: null },
    ],
    rhythm: 'month',
    startDate,
    endDate: '',
    isReversing: false,
  };
}

/** A recurring journal as a draft that can be changed. */
export function planDraftOf({ note, endDate, ...plan }: JournalPlan): PlanDraft {
  const { name, payeeId, legs, rhythm, startDate, isReversing } = plan;
  const kept = { name, payeeId, legs, rhythm, startDate, isReversing };
  return { ...kept, note: note ?? '', endDate: endDate ?? '' };
}

/** What a recurring journal begins with that repeats an entry: the first one is a month later. */
export function planStartOf({ content, date, reversedBy }: Entry): PlanDraft {
  const once = { rhythm: 'month', startDate: date, endDate: null } as const;
  const start = emptyPlan(recurringDate(once, 1));
  if (content?.kind !== 'journal') return start;
  const { note, payeeId, legs } = content;
  return { ...start, name: note ?? '', payeeId, legs, isReversing: reversedBy !== null };
}

/** A draft as it is sent, or what is still missing, in words. */
export function completePlan(
  draft: PlanDraft,
): { readonly plan: GivenJournalPlan } | { readonly missing: string } {
  const { payeeId, rhythm, startDate, isReversing } = draft;
  const name = draft.name.trim();
  if (name === '') return { missing: t`a name` };
  if (startDate === '') return { missing: t`the first date` };
  if (draft.endDate !== '' && draft.endDate < startDate) {
    return { missing: t`a last date that isn’t before the first` };
  }
  const complete = completeLegs(draft.legs);
  if ('missing' in complete) return complete;
  const note = draft.note.trim() || null;
  const endDate = draft.endDate || null;
  const plan = { name, payeeId, note, rhythm, startDate, endDate, isReversing, ...complete };
  return { plan };
}
