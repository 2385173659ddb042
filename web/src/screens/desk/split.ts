import type { DraftCoding, DraftPart } from '@zubrell/contract/coding';
import { ZubrellError } from '@zubrell/core/errors';
import { splitAmount } from '@zubrell/core/money/splitAmount';

/** The draft of a line to one account as the first of two parts. */
export function startSplit(coding: DraftCoding): DraftCoding {
  const { accountId, taxCodeId } = coding;
  const first: DraftPart = { accountId, taxCodeId, share: { kind: 'rest' }, tax: null };
  const second: DraftPart = {
    accountId: null,
    taxCodeId: null,
    share: { kind: 'fixed', amount: 0 },
    tax: null,
  };
  return { ...coding, tax: null, parts: [second, first] };
}

/** The draft of a split as one to the account of its largest part, here the last. */
export function endSplit(coding: DraftCoding): DraftCoding {
  const main = coding.parts?.find(({ share }) => share.kind === 'rest') ?? coding.parts?.[0];
  return {
    ...coding,
    accountId: main?.accountId ?? null,
    taxCodeId: main?.taxCodeId ?? null,
    tax: null,
    parts: null,
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
