import type { GivenTaxCode, TaxCode } from '@zubrell/contract/books';
import type { TaxKind, TaxUse } from '@zubrell/core/ledger/kinds';
import { noBoxes, type TaxPart } from '@zubrell/core/ledger/starterBooks';
import { t } from '@zubrell/core/words/t';

/** A tax code as it is being typed: percents are texts. */
export interface TaxCodeDraft extends Omit<GivenTaxCode, 'rates' | 'recoverable'> {
  readonly rates: readonly { readonly fromDate: string; readonly percent: string }[];
  readonly recoverable: string;
}

export const kindNames: Readonly<Record<TaxKind, string>> = {
  standard: t`Tax at a rate`,
  zero: t`Taxed at 0 %`,
  exempt: t`Exempt`,
  outside: t`Outside tax`,
  reverseCharge: t`Reverse charge`,
};

export const useNames: Readonly<Record<TaxUse, string>> = {
  both: t`Sales and purchases`,
  purchases: t`Purchases only`,
  sales: t`Sales only`,
};

export const partNames: Readonly<Record<TaxPart, string>> = {
  outputNet: t`Sales without tax`,
  outputTax: t`Output tax`,
  inputNet: t`Purchases without tax`,
  inputTax: t`Input tax`,
};

/** Whether tax codes of a kind have rates. */
export function hasRates(kind: TaxKind): boolean {
  return kind === 'standard' || kind === 'reverseCharge';
}

/** What a new tax code begins with. */
export function emptyTaxCode(accounts: {
  readonly input: string | null;
  readonly output: string | null;
}): TaxCodeDraft {
  return {
    name: '',
    kind: 'standard',
    use: 'both',
    rates: [{ fromDate: '', percent: '' }],
    inputAccountId: accounts.input,
    outputAccountId: accounts.output,
    recoverable: '100',
    boxes: noBoxes,
    isOn: true,
  };
}

/** A tax code as a draft that can be changed. */
export function taxCodeDraft({ id: _, rates, recoverable, ...code }: TaxCode): TaxCodeDraft {
  return {
    ...code,
    rates: rates.map(({ fromDate, rate }) => ({
      fromDate: fromDate ?? '',
      percent: percentText(rate),
    })),
    recoverable: percentText(recoverable),
  };
}

/** @example percentText(550) // '5.5' */
export function percentText(basisPoints: number): string {
  return String(basisPoints / 100);
}

/** Hundredths of a percent of what was typed, with a point or a comma; null where it isn't a percentage. */
export function typedPercent(typed: string): number | null {
  const text = typed.trim().replace(/\s*%$/, '').replace(',', '.');
  if (!/^\d{1,3}(\.\d{1,2})?$/.test(text)) return null;
  const basisPoints = Math.round(Number(text) * 100);
  return basisPoints <= 10_000 ? basisPoints : null;
}

/** A draft as it is sent, or what is still missing, in words. */
export function completeTaxCode(
  draft: TaxCodeDraft,
): { readonly code: GivenTaxCode } | { readonly missing: string } {
  const name = draft.name.trim();
  if (name === '') return { missing: t`a name` };
  const recoverable = typedPercent(draft.recoverable);
  if (recoverable === null)
    return { missing: t`how much input tax is recoverable, from 0 to 100 %` };
  if (!hasRates(draft.kind)) return { code: { ...draft, name, recoverable, rates: [] } };
  const rates: { fromDate: string | null; rate: number }[] = [];
  for (const { fromDate, percent } of draft.rates) {
    if (fromDate === '' && percent.trim() === '') continue;
    const rate = typedPercent(percent);
    if (rate === null) return { missing: t`a rate from 0 to 100 %, such as 20 or 5.5` };
    rates.push({ fromDate: fromDate || null, rate });
  }
  if (!rates.some(({ rate }) => rate > 0)) return { missing: t`a rate` };
  return { code: { ...draft, name, recoverable, rates } };
}
