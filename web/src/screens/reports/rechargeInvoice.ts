import type { BooksSetup } from '@zubrell/contract/books';
import type { Recharge } from '@zubrell/contract/documents';
import type { PayeeId } from '@zubrell/core/ids';
import { taxOn } from '@zubrell/core/money/taxInside';
import { rateOn } from '@zubrell/core/tax/rateOn';
import type { Uses } from '../../app/codingChoices.ts';
import { type DocumentDraft, emptyDocument } from '../ledger/documentForm.ts';

/**
 * An invoice over costs: each a line with the tax code that it came with, to the income account that is used most. What
 * the supplier's tax was comes on again as output tax, so that the customer pays what was paid.
 */
export function rechargeInvoice(
  costs: readonly Recharge[],
  {
    setup,
    uses,
    today,
    payeeName,
  }: {
    readonly setup: BooksSetup;
    readonly uses: Uses;
    readonly today: string;
    readonly payeeName: (id: PayeeId | null) => string;
  },
): DocumentDraft {
  const times = new Map(uses.accounts.map((use) => [use.accountId, use.times]));
  const [income] = setup.accounts
    .filter(({ type, isOn }) => type === 'income' && isOn)
    .sort((a, b) => (times.get(b.id) ?? 0) - (times.get(a.id) ?? 0));
  return {
    ...emptyDocument('receivables', today),
    lines: costs.map(({ legId, net, payeeId, text, taxCodeId }) => {
      const code = setup.taxCodes.find(
        ({ id, kind, use }) => id === taxCodeId && kind === 'standard' && use !== 'purchases',
      );
      const rate = (code && rateOn(code.rates, today)) ?? 0;
      return {
        text: [payeeName(payeeId), text].filter(Boolean).join(', ').slice(0, 300),
        accountId: income?.id ?? null,
        taxCodeId: code?.id ?? null,
        amount: net + taxOn(net, rate),
        rechargedLegId: legId,
      };
    }),
  };
}
