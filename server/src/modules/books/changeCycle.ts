import type { Cycle } from '@zubrell/contract/books';
import type { StepDone } from '@zubrell/contract/common';
import { fail } from '@zubrell/core/errors';
import type { BankAccountId } from '@zubrell/core/ids';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { putItems } from '../steps/putItems.ts';
import { recordDone, type StepItem } from '../steps/recordStep.ts';

/** Changes how a bank account's statements follow each other, as one step. @throws {ZubrellError} BANK_ACCOUNT_UNKNOWN */
export async function changeCycle(
  command: BooksCommand,
  bankAccountId: BankAccountId,
  cycle: Cycle,
): Promise<StepDone> {
  const standing = await command.things.bankAccount.standing(command, [bankAccountId]);
  const before = standing.get(bankAccountId) ?? fail('BANK_ACCOUNT_UNKNOWN');
  const items: StepItem[] = [
    { thing: 'bankAccount', thingId: bankAccountId, before, after: { ...before, cycle } },
  ];
  await putItems(command, items);
  const ends = { month: 'with the month', any: 'on any day', day: '' };
  const when = cycle.kind === 'day' ? `on day ${cycle.day} of the month` : ends[cycle.kind];
  const words = `Set the statements of ${String(before.name)} to end ${when}`;
  return recordDone(command, { kind: 'changeCycle', words, items });
}
