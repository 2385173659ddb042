import type { AccountRole } from '../../ledger/accountRoles.ts';
import { plainWording } from '../../text/plainWording.ts';

/** What a line may be that is easily coded as a running cost or as income, and is neither. */
export const nudgeKinds = [
  'fixedAsset',
  'refund',
  'loan',
  'wages',
  'taxPayment',
  'deposit',
  'owner',
  'cash',
] as const;
export type NudgeKind = (typeof nudgeKinds)[number];

/** What the wording of a line can say that it is. */
type SaidKind = Exclude<NudgeKind, 'fixedAsset' | 'refund'>;

/** The account that a nudge points to, by what the program uses it for. A refund goes back where it came from. */
export const nudgeRoles: Readonly<Record<Exclude<NudgeKind, 'refund'>, AccountRole>> = {
  fixedAsset: 'fixedAssets',
  loan: 'loans',
  wages: 'wagesOwed',
  taxPayment: 'taxOwed',
  deposit: 'deposits',
  owner: 'drawings',
  cash: 'transfers',
};

/** Whole words that say so, in the languages that banks of these parts use. The first kind that fits wins. */
const SIGNS: readonly (readonly [SaidKind, string])[] = [
  ['cash', 'ATM CASH WITHDRAWAL CASHPOINT BARGELD BANKOMAT RETRAIT CAJERO PRELIEVO'],
  ['loan', 'LOAN MORTGAGE DARLEHEN KREDITRATE TILGUNG PRET EMPRUNT PRESTAMO MUTUO'],
  ['taxPayment', 'TAX VAT TAXES STEUER FINANZAMT UMSATZSTEUER IMPOT TVA IMPUESTO IVA'],
  ['wages', 'WAGES WAGE SALARY SALARIES PAYROLL LOHN GEHALT SALAIRE NOMINA STIPENDIO'],
  ['deposit', 'DEPOSIT BOND KAUTION CAUTION FIANZA CAUZIONE'],
  ['owner', 'DRAWINGS DIRECTOR OWNER CAPITAL PRIVATE PRIVAT PRIVATENTNAHME EINLAGE'],
];
const KIND_OF_WORD = new Map(
  SIGNS.flatMap(([kind, words]) => words.split(' ').map((word) => [word, kind] as const)).reverse(),
);

/** Merchant category codes (ISO 18245) of cash dispensed by machine or over the counter. */
const CASH_CATEGORIES = new Set(['6010', '6011']);

/** What of a line can say that it is no plain cost or income. */
export interface NudgeFacts {
  readonly description: string;
  readonly reference: string | null;
  readonly type: string | null;
  /** Merchant category code. */
  readonly category: string | null;
}

/**
 * What the wording of a line says it is, beside a plain cost or income.
 *
 * @example nudgeOfWording({ description: 'DD LOAN 88-204 INSTALMENT', reference: null, type: null, category: null })
 * // { kind: 'loan', word: 'LOAN' }
 */
export function nudgeOfWording(
  facts: NudgeFacts,
): { readonly kind: SaidKind; readonly word: string } | null {
  const words = plainWording(`${facts.description} ${facts.reference ?? ''}`).split(' ');
  const found = words.flatMap((word) => {
    const kind = KIND_OF_WORD.get(word);
    return kind === undefined ? [] : [{ kind, word }];
  });
  found.sort((a, b) => orderOf(a.kind) - orderOf(b.kind));
  const [first] = found;
  const isCash = CASH_CATEGORIES.has(facts.category ?? '') || facts.type?.toUpperCase() === 'ATM';
  if (isCash) return { kind: 'cash', word: facts.type ?? facts.category ?? '' };
  return first ?? null;
}

const orderOf = (kind: SaidKind) => SIGNS.findIndex(([each]) => each === kind);
