import type { Cycle, HolderNames } from '@zubrell/contract/books';
import type { StepDone } from '@zubrell/contract/common';
import { fail } from '@zubrell/core/errors';
import type { BankAccountId } from '@zubrell/core/ids';
import { say } from '@zubrell/core/words/say';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { putItems } from '../steps/putItems.ts';
import { recordDone, type StepRecord } from '../steps/recordStep.ts';

/** Changes how a bank account's statements follow each other, as one step. @throws {ZubrellError} BANK_ACCOUNT_UNKNOWN */
export function changeCycle(
  command: BooksCommand,
  bankAccountId: BankAccountId,
  cycle: Cycle,
): Promise<StepDone> {
  const ends = { month: 'with the month', any: 'on any day', day: '' };
  const when = cycle.kind === 'day' ? `on day ${cycle.day} of the month` : ends[cycle.kind];
  return change(command, bankAccountId, { cycle }, (name) => ({
    kind: 'changeCycle',
    words: say`Set the statements of ${name} to end ${when}`,
  }));
}

/** Says what the cardholders of a bank account are called, as one step. @throws {ZubrellError} BANK_ACCOUNT_UNKNOWN */
export function nameHolders(
  command: BooksCommand,
  bankAccountId: BankAccountId,
  holderNames: HolderNames,
): Promise<StepDone> {
  return change(command, bankAccountId, { holderNames }, (name) => ({
    kind: 'nameHolders',
    words: say`Named the cardholders of ${name}`,
  }));
}

async function change(
  command: BooksCommand,
  bankAccountId: BankAccountId,
  part: { readonly cycle: Cycle } | { readonly holderNames: HolderNames },
  stepOf: (name: string) => Pick<StepRecord, 'kind' | 'words'>,
): Promise<StepDone> {
  const standing = await command.things.bankAccount.standing(command, [bankAccountId]);
  const before = standing.get(bankAccountId) ?? fail('BANK_ACCOUNT_UNKNOWN');
  const after = { ...before, ...part };
  const items = [{ thing: 'bankAccount', thingId: bankAccountId, before, after }] as const;
  await putItems(command, items);
  return recordDone(command, { ...stepOf(String(before.name)), items });
}
