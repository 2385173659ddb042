import type { BankLine, Problem, TakeLine } from './bankFile.ts';
import { problem } from './problems.ts';

/** No text of a line is kept longer: nobody reads more, and what is looked up must have an end. */
export const longestText = 600;
const LONGEST_SHORT = 200;

/** The texts of a line, with how much of each is kept. */
const TEXTS = {
  description: longestText,
  payee: LONGEST_SHORT,
  reference: LONGEST_SHORT,
  bankId: LONGEST_SHORT,
  type: LONGEST_SHORT,
  chequeNumber: LONGEST_SHORT,
  counterparty: LONGEST_SHORT,
  category: LONGEST_SHORT,
  cardholder: LONGEST_SHORT,
  original: LONGEST_SHORT,
} as const;
const NAMES = Object.keys(TEXTS) as (keyof typeof TEXTS)[];

/** Cuts texts of lines as they pass. */
export interface TextCutter {
  readonly take: TakeLine;
  /** What there is to say of it in the end. */
  notices(): Problem[];
}

/** Cuts texts that are far longer than any bank's, and says so: one endless word must not cost a file. */
export function cutTexts(takeLine: TakeLine): TextCutter {
  let count = 0;
  let first: BankLine | null = null;
  return {
    take(statement, line) {
      const long = mayBeLong(line)
        ? NAMES.filter((name) => (line[name]?.length ?? 0) > TEXTS[name])
        : [];
      if (long.length === 0) {
        takeLine(statement, line);
        return;
      }
      count += 1;
      first ??= line;
      const cut = Object.fromEntries(
        long.map((name) => [name, cutText(line[name] ?? '', TEXTS[name])]),
      );
      takeLine(statement, { ...line, ...cut });
    },
    notices() {
      if (first === null) return [];
      const lines = count === 1 ? '1 line' : `${count} lines`;
      const place = { line: first.place, excerpt: first.description };
      return [problem('notice', 'FILE_TEXT_CUT', { lines, longest: longestText }, place)];
    },
  };
}

/** Whether any text may be too long, told fast by all of them together: large files have a million of lines. */
function mayBeLong(line: BankLine): boolean {
  const length =
    line.description.length +
    (line.payee?.length ?? 0) +
    (line.reference?.length ?? 0) +
    (line.bankId?.length ?? 0) +
    (line.type?.length ?? 0) +
    (line.chequeNumber?.length ?? 0) +
    (line.counterparty?.length ?? 0) +
    (line.category?.length ?? 0) +
    (line.cardholder?.length ?? 0) +
    (line.original?.length ?? 0);
  return length > LONGEST_SHORT;
}

/** The beginning of a text, never half a character. */
function cutText(text: string, length: number): string {
  return `${text.slice(0, length - 1).replace(/[\ud800-\udbff]$/, '')}…`;
}
