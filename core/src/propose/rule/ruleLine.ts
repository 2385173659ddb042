import { plainWording } from '../../text/plainWording.ts';
import { type RuleFacts, type TextField, textFields } from './rule.ts';

/** A line as rules read it, with every text as it is compared. */
export interface RuleLine {
  readonly facts: RuleFacts;
  /** Plain words between single spaces, with one at each end; an empty text is one space. */
  readonly plain: Readonly<Record<TextField, string>>;
}

/** A text as it is compared by whole words. @example paddedWords('Crd  Pur.') // ' CRD PUR ' */
export function paddedWords(text: string | null): string {
  const plain = plainWording(text ?? '');
  return plain === '' ? ' ' : ` ${plain} `;
}

/** A text of a line as the bank sent it. */
export function rawText(facts: RuleFacts, field: TextField): string {
  if (field !== 'wording') return facts[field] ?? '';
  const { description, payee, reference } = facts;
  return [description, payee, reference].filter(Boolean).join(' ');
}

/** Reads a line once, so that many rules can be tested on it. */
export function readRuleLine(facts: RuleFacts): RuleLine {
  const description = paddedWords(facts.description);
  const isAll = !facts.payee && !facts.reference;
  const wording = isAll ? description : paddedWords(rawText(facts, 'wording'));
  const plain: Record<TextField, string> = { ...NOTHING, wording, description };
  for (const field of textFields) {
    if (field === 'wording' || field === 'description') continue;
    const text = facts[field];
    if (text) plain[field] = paddedWords(text);
  }
  return { facts, plain };
}

const NOTHING: Readonly<Record<TextField, string>> = {
  wording: ' ',
  description: ' ',
  reference: ' ',
  payee: ' ',
  counterparty: ' ',
  type: ' ',
  chequeNumber: ' ',
  category: ' ',
};
