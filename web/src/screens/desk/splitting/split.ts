import type { DraftCoding, DraftPart } from '@zubrell/contract/coding';
import { ZubrellError } from '@zubrell/core/errors';
import type { CostObjects } from '@zubrell/core/ledger/coding';
import { splitAmount } from '@zubrell/core/money/splitAmount';

/** The draft of a line to one account as the first of two parts. */
export function startSplit(coding: DraftCoding): DraftCoding {
  const first: DraftPart = {
    ...objectsOf(coding),
    accountId: coding.accountId,
    taxCodeId: coding.taxCodeId,
    share: { kind: 'rest' },
    tax: null,
  };
  const second: DraftPart = {
    accountId: null,
    taxCodeId: null,
    share: { kind: 'fixed', amount: 0 },
    tax: null,
  };
  const { payeeId, accountId, taxCodeId, note } = coding;
  return { payeeId, accountId, taxCodeId, note, tax: null, parts: [second, first] };
}

/**
 * The draft of a loan's instalment: its interest, to be filled in, is a cost; the rest pays back capital.
 *
 * @param loanId the account of the loan
 * @param interestId where interest goes; null leaves that open
 */
export function splitInterest(
  coding: DraftCoding,
  loanId: string | null,
  interestId: string | null,
): DraftCoding {
  const whole = coding.parts === null ? coding : endSplit(coding);
  const split = startSplit({ ...whole, accountId: loanId, taxCodeId: null });
  const [interest, capital] = split.parts ?? [];
  const parts = interest && capital ? [{ ...interest, accountId: interestId }, capital] : null;
  return { ...split, parts };
}

/** The draft of a split as one to the account of its largest part, here the last. */
export function endSplit(coding: DraftCoding): DraftCoding {
  const main = coding.parts?.find(({ share }) => share.kind === 'rest') ?? coding.parts?.[0];
  return {
    ...coding,
    ...objectsOf(main ?? {}),
    accountId: main?.accountId ?? null,
    taxCodeId: main?.taxCodeId ?? null,
    tax: null,
    parts: null,
  };
}

/**
 * The draft of a line with a private share: half of it to the owner's account, the rest as it was coded.
 *
 * @param privateId the account of the owner's drawings, or what a director owes
 */
export function splitPrivately(coding: DraftCoding, privateId: string): DraftCoding {
  const split = startSplit(coding.parts === null ? coding : endSplit(coding));
  const half: DraftPart = {
    accountId: privateId,
    taxCodeId: null,
    share: { kind: 'percent', basisPoints: 5_000 },
    tax: null,
  };
  const rest = split.parts?.find(({ share }) => share.kind === 'rest');
  const other: DraftPart = { ...half, ...rest, share: { kind: 'percent', basisPoints: 5_000 } };
  return { ...split, parts: rest ? [half, other] : [half] };
}

/** Only what is set, so that drafts stay comparable. */
export function objectsOf({
  costCentreId,
  jobId,
  isRecharged,
  clientId,
}: CostObjects): CostObjects {
  return {
    ...(clientId ? { clientId } : {}),
    ...(costCentreId ? { costCentreId } : {}),
    ...(jobId ? { jobId, isRecharged: isRecharged ?? false } : {}),
  };
}

/** What a split of a line comes to: an amount each part, or what is left and why. */
export type SplitState =
  | { readonly kind: 'whole'; readonly amounts: readonly number[] }
  | { readonly kind: 'open'; readonly left: number; readonly message: string };

/**
 * Works a split out.
 *
 * @param line the line's amount, signed
 * @returns what is left is signed like the line; 0 where that can't be said
 */
export function splitState(line: number, parts: readonly DraftPart[]): SplitState {
  try {
    const shares = parts.map(({ share }) => share);
    return { kind: 'whole', amounts: splitAmount(line, shares) };
  } catch (error) {
    if (!(error instanceof ZubrellError)) throw error;
    const left = error.code === 'SPLIT_NOT_WHOLE' ? Number(error.params.rest) : 0;
    return { kind: 'open', left, message: error.message };
  }
}
