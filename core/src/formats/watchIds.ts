import type { BankLine, FileFormat, Problem, TakeLine } from './bankFile.ts';
import { problem } from './problems.ts';

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
  // Hashes instead of ids: a large file's ids would keep its whole text in memory.
  const seen = new Map<number, Set<number>>();
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
        const ids = seen.get(statement) ?? new Set();
        if (ids.size === 0) seen.set(statement, ids);
        const before = ids.size;
        if (ids.add(hashOf(line.bankId)).size === before) note(repeated, line);
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

/** Two 26-bit hashes in one number, so that two ids of a million rarely meet (FNV-1a). */
function hashOf(text: string): number {
  let low = 0x811c9dc5;
  let high = 0x1000193;
  for (let at = 0; at < text.length; at += 1) {
    const code = text.charCodeAt(at);
    low = Math.imul(low ^ code, 0x01000193);
    high = Math.imul(high ^ code, 0x85ebca6b);
  }
  return (low & 0x3ffffff) * 0x4000000 + (high & 0x3ffffff);
}
