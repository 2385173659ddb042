import type { LedgerRow } from '@zubrell/contract/ledger';
import { expect, it } from 'vitest';
import { testLedgerRow } from '../../testing/testLedgerRow.ts';
import { payeeAccount } from './payeeAccount.ts';

const row = (legId: string, kind: LedgerRow['kind'], amount: number, number: string | null) =>
  testLedgerRow({
    legId,
    entryId: `entry ${legId}`,
    accountId: '1200',
    date: `2026-03-0${legId}`,
    text: 'WREN MARKET PAYS',
    amount,
    kind,
    number,
  });

it('a statement of account goes from what was left to what is left', () => {
  const { sections, foot, left } = payeeAccount(
    [
      row('1', 'document', 12_000, '1106'),
      row('2', 'settlement', -10_000, null),
      row('3', 'document', -500, 'C1'),
    ],
    3_000,
  );
  expect(sections[0]?.rows.map(({ label, amounts }) => [label, ...amounts.slice(1)])).toEqual([
    ['Opening balance', null, null, null, 3_000],
    ['Invoice', '1106', 12_000, null, 15_000],
    ['WREN MARKET PAYS', null, null, 10_000, 5_000],
    ['Credit note', 'C1', null, 500, 4_500],
  ]);
  expect([foot.amounts.at(-1), left]).toEqual([4_500, 4_500]);
});
