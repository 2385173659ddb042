import type { HandEntry } from '@zubrell/contract/ledger';
import type { AccountId, BankAccountId, DocumentId, PayeeId, TaxCodeId } from '@zubrell/core/ids';
import { handDirection } from '@zubrell/core/ledger/entries';
import { sumOf } from '@zubrell/core/money/minor';
import { t } from '@zubrell/core/words/t';

/** What is paid by or to somebody. */
type PaidEntry = Exclude<HandEntry, { kind: 'transfer' | 'journal' }>;

/** An entry as it is being typed. */
export interface HandDraft {
  readonly kind: HandEntry['kind'];
  readonly date: string;
  readonly bankAccountId: BankAccountId | null;
  readonly toBankAccountId: BankAccountId | null;
  /** Who paid, where that was private; null where the books have one account for all owners. */
  readonly ownerId: PayeeId | null;
  /** Whose money moves, where a bank account holds clients' money. */
  readonly clientId: PayeeId | null;
  readonly amount: number | null;
  readonly number: string;
  readonly note: string;
  readonly payeeId: PayeeId | null;
  readonly accountId: AccountId | null;
  readonly taxCodeId: TaxCodeId | null;
  /** The documents that it settles, each with how much of it, signed like what is open. */
  readonly settles: readonly { readonly documentId: DocumentId; readonly amount: number }[];
  /** What the entry settled before it was changed: that is open again for it. */
  readonly own: HandDraft['settles'];
  /** What is more than the documents stays as credit with the payee. */
  readonly leavesCredit: boolean;
  /** The exchange rate that was typed; null for that of the day. */
  readonly rate: string | null;
  /** Of a journal: the bank will report it. */
  readonly isAwaited: boolean;
  /** Of a journal: the day on which it is reversed; empty where it isn't. */
  readonly reverseOn: string;
  /** Of a journal: debit positive. */
  readonly legs: readonly {
    readonly accountId: AccountId | null;
    readonly amount: number | null;
  }[];
}

export const handNames: Readonly<Record<HandEntry['kind'], string>> = {
  payment: t`Payment`,
  receipt: t`Receipt`,
  cheque: t`Cheque`,
  deposit: t`Deposit`,
  transfer: t`Transfer`,
  paidPrivately: t`Cost paid privately`,
  journal: t`Journal`,
};

/** What an entry begins with. */
export function emptyHand(date: string, bankAccountId: BankAccountId | null): HandDraft {
  return {
    kind: 'cheque',
    date,
    bankAccountId,
    toBankAccountId: null,
    ownerId: null,
    clientId: null,
    amount: null,
    number: '',
    note: '',
    payeeId: null,
    accountId: null,
    taxCodeId: null,
    settles: [],
    own: [],
    leavesCredit: false,
    rate: null,
    isAwaited: false,
    reverseOn: '',
    legs: [
      { accountId: null, amount: null },
      { accountId: null, amount: null },
    ],
  };
}

/** An entry as a draft that can be changed. */
export function handDraftOf(entry: HandEntry): HandDraft {
  const bankAccountId = 'bankAccountId' in entry ? entry.bankAccountId : null;
  const start = {
    ...emptyHand(entry.date, bankAccountId),
    kind: entry.kind,
    note: entry.note ?? '',
  };
  if (entry.kind === 'transfer') {
    const { amount, toBankAccountId, rate = null, clientId = null } = entry;
    return { ...start, amount, toBankAccountId, rate, clientId };
  }
  const named = { ...start, number: entry.number ?? '', payeeId: entry.payeeId };
  if (entry.kind === 'journal') {
    return { ...named, legs: entry.legs, isAwaited: entry.isAwaited ?? false };
  }
  const [part] = entry.parts;
  return {
    ...named,
    amount: entry.amount,
    accountId: part?.accountId ?? null,
    taxCodeId: part?.taxCodeId ?? null,
    settles: entry.settles ?? [],
    own: entry.settles ?? [],
    leavesCredit: entry.leavesCredit ?? false,
    clientId: part?.clientId ?? null,
    ...(entry.kind === 'paidPrivately' ? { ownerId: entry.ownerId } : { rate: entry.rate ?? null }),
  };
}

/** Whether an entry can settle documents: money of a payee. */
export function canSettle({ kind, payeeId }: HandDraft): boolean {
  return kind !== 'journal' && kind !== 'transfer' && payeeId !== null;
}

/** What of the amount no document takes, in positive, out negative; null without an amount. */
export function restOf({ kind, amount, settles }: HandDraft): number | null {
  if (kind === 'journal' || kind === 'transfer' || amount === null) return null;
  return handDirection(kind) * amount - sumOf(settles);
}

/** The legs of a journal as they are sent, or what is still missing, in words. */
export function completeLegs(
  drafted: HandDraft['legs'],
): { readonly legs: { accountId: AccountId; amount: number }[] } | { readonly missing: string } {
  const filled = drafted.filter((leg) => leg.accountId !== null || leg.amount !== null);
  const legs = filled.flatMap((leg) =>
    leg.accountId === null || leg.amount === null || leg.amount === 0
      ? []
      : [{ accountId: leg.accountId, amount: leg.amount }],
  );
  if (legs.length < filled.length) return { missing: t`an account and an amount on each leg` };
  if (legs.length < 2) return { missing: t`two legs or more` };
  if (sumOf(legs) !== 0) return { missing: t`debits and credits of the same total` };
  return { legs };
}

/** A draft as an entry, or what is still missing, in words. */
export function completeHand(
  draft: HandDraft,
): { readonly entry: HandEntry } | { readonly missing: string } {
  const { kind, date, bankAccountId, toBankAccountId, amount, payeeId, accountId, rate, clientId } =
    draft;
  const typed = { date, note: draft.note.trim() || null };
  const number = draft.number.trim() || null;
  if (kind === 'journal') {
    const complete = completeLegs(draft.legs);
    if ('missing' in complete) return complete;
    return { entry: { kind, ...typed, number, payeeId, ...complete, isAwaited: draft.isAwaited } };
  }
  const isPrivate = kind === 'paidPrivately';
  if (bankAccountId === null && !isPrivate) return { missing: t`the bank account` };
  if (amount === null || amount <= 0) return { missing: t`an amount above zero` };
  if (kind === 'transfer') {
    if (bankAccountId === null || toBankAccountId === null || toBankAccountId === bankAccountId) {
      return { missing: t`the other bank account` };
    }
    return { entry: { kind, ...typed, bankAccountId, toBankAccountId, amount, rate, clientId } };
  }
  if (kind === 'cheque' && number === null) return { missing: t`the cheque’s number` };
  const paid = { ...typed, amount, number, payeeId };
  const whole = (more: Pick<PaidEntry, 'settles' | 'leavesCredit' | 'parts'>): HandEntry =>
    kind === 'paidPrivately'
      ? { kind, ...paid, ownerId: draft.ownerId, ...more }
      : { kind, ...paid, bankAccountId: bankAccountId ?? '', rate, ...more };
  const settles = canSettle(draft) ? [...draft.settles] : [];
  const rest = restOf({ ...draft, settles }) ?? 0;
  if (rest !== 0 && Math.sign(rest) !== handDirection(kind)) {
    return { missing: t`an amount that covers the documents` };
  }
  if (rest === 0) return { entry: whole({ settles, parts: [] }) };
  if (draft.leavesCredit && payeeId !== null) {
    return { entry: whole({ settles, leavesCredit: true, parts: [] }) };
  }
  if (accountId === null) {
    return { missing: settles.length > 0 ? t`what the rest is for` : t`the account` };
  }
  const { taxCodeId } = draft;
  const ofClient = clientId === null ? {} : { clientId };
  const part = { accountId, taxCodeId, share: { kind: 'rest' }, tax: null, ...ofClient } as const;
  return { entry: whole({ settles, parts: [part] }) };
}
