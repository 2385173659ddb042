import type { BankLine, FileFormat, Problem, TakeLine } from './bankFile.ts';
import { problem } from './problems.ts';
import { SeenHashes } from './seenHashes.ts';

/** Looks at the ids of lines as they pass. */
export interface IdWatch {
  readonly take: TakeLine;
  /** What there is to say of the ids in the end. */
  notices(format: FileFormat): Problem[];
}

/** Counts of ids that are missing or come again, and where first. */
interface Count {
  times: number;
  line: number;
}

/**
 * Notices ids that are missing or come again in one statement; nothing is lost by it, as such lines are
 * told apart by date, amount and wording.
 */
export function watchIds(takeLine: TakeLine): IdWatch {
  const seen: SeenHashes[] = [];
  const repeated: Count = { times: 0, line: 0 };
  const missing: Count = { times: 0, line: 0 };
  let lines = 0;

  function note(count: Count, line: BankLine): void {
    if (count.times === 0) count.line = line.place;
    count.times += 1;
  }

  return {
    take(statement, line) {
      lines += 1;
      if (line.bankId === null) note(missing, line);
      else {
        seen[statement] ??= new SeenHashes();
        if (seen[statement].add(line.bankId)) note(repeated, line);
      }
      takeLine(statement, line);
    },
    notices(format) {
      const isOfx = format === 'ofx1' || format === 'ofx2';
      const notices: Problem[] = [];
      if (repeated.times > 0) {
        const { times: count, line } = repeated;
        notices.push(problem('notice', 'FILE_IDS_REPEATED', { count }, { line }));
      }
      // Only OFX demands an id; elsewhere it is worth a word where most lines have one.
      if (missing.times > 0 && (isOfx || missing.times < lines / 2)) {
        const { times: count, line } = missing;
        notices.push(problem('notice', 'FILE_IDS_MISSING', { count }, { line }));
      }
      return notices;
    },
  };
}
