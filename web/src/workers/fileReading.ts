import type { LineFactsList } from '@zubrell/contract/intake';
import type {
  BankFileFacts,
  BankLine,
  Problem,
  StatementFacts,
} from '@zubrell/core/formats/bankFile';
import { createBankFileReader } from '@zubrell/core/formats/readBankFile';
import type { LayoutChoices } from '@zubrell/core/formats/table/tableLayout';
import { writeCamt } from '@zubrell/core/formats/write/writeCamt';
import { writeCsv } from '@zubrell/core/formats/write/writeCsv';
import { writeOfx } from '@zubrell/core/formats/write/writeOfx';
import { writeXlsx } from '@zubrell/core/formats/write/writeXlsx';
import {
  type ChainBreak,
  type DatedBalance,
  firstBreak,
  statedDifferences,
} from '@zubrell/core/intake/balanceChain';
import { sightStatement } from '@zubrell/core/intake/sightStatement';
import {
  closingBalance,
  expectedClosing,
  type LinesSummary,
  openingBalance,
  statementGap,
  summaryOf,
} from '@zubrell/core/intake/statementBalances';

/** What there is to say of a statement by itself, without its lines. */
export interface StatementSummary extends StatementFacts {
  readonly lines: LinesSummary;
  /** Lines that are only announced; they are left out. */
  readonly announcedCount: number;
  readonly paidOut: number;
  readonly paidIn: number;
  /** How many lines are paid out, and in. */
  readonly outCount: number;
  readonly inCount: number;
  /** What stays unexplained between its balances; null where they are not both stated. */
  readonly gap: number | null;
  /** Where its stated balances stop adding up. */
  readonly firstBreak: ChainBreak | null;
  /** The balance before its first line, stated or calculated. */
  readonly before: DatedBalance | null;
  readonly names: PreparedNames;
}

/** The different names in the coding columns of a prepared file. */
export interface PreparedNames {
  readonly accounts: readonly string[];
  readonly taxes: readonly string[];
  readonly payees: readonly string[];
}

/** A file read, without its lines. */
export interface FileSummary extends Omit<BankFileFacts, 'statements'> {
  readonly statements: readonly StatementSummary[];
  readonly milliseconds: number;
}

/** What becomes of a line. */
export type LineState = 'new' | 'already' | 'doubtful';

/** Rows that can be shown alone. */
export type RowFilter = 'all' | LineState | 'refused' | 'marked';

/** One row of the preview, in the file's order. */
export type PreviewRow =
  | {
      readonly kind: 'line';
      readonly line: BankLine;
      readonly state: LineState;
      readonly mark: LineMark | null;
    }
  | { readonly kind: 'refused'; readonly problem: Problem };

/** Dates at which a line can't simply be posted. */
export type LineMark = 'beforeOpening' | 'closed';

/** What is known of the bank account that a statement goes to. */
export interface AccountDates {
  readonly openingDate: string | null;
  /** Up to this day nothing can be changed. */
  readonly closedTo: string | null;
}

/** What a statement would bring to a bank account. */
export interface Comparison {
  readonly counts: Readonly<Record<RowFilter, number>>;
  readonly beforeOpeningCount: number;
  readonly closedCount: number;
  /** Where the account would stand on the closing day, if that is not what the file states. */
  readonly mismatch: { readonly wouldBe: number; readonly stated: DatedBalance } | null;
}

/** A format that lines are written in. */
export type WrittenFormat = 'csv' | 'xlsx' | 'ofx' | 'camt053' | 'json';

/** Pieces of the file are read in this size, to say how far it is. */
const PIECE = 1024 * 1024;

/**
 * Holds a file that is read and answers what the page shows of it, so that the page never holds all
 * lines itself. Lives in a worker.
 */
export class FileReading {
  #facts: BankFileFacts | null = null;
  #lines: BankLine[][] = [];
  #rows: PreviewRow[][] = [];
  #currency = 'EUR';

  /**
   * Reads the file, by content and by what was chosen of its layout.
   *
   * @param tell is told the share that is read, 0 to 1
   * @throws {ZubrellError} where it is no bank file
   */
  async read(
    source: Blob,
    currency: string,
    choices: LayoutChoices,
    tell: (share: number) => void,
  ): Promise<FileSummary> {
    const began = performance.now();
    const lines: BankLine[][] = [];
    const announced: number[] = [];
    const reader = createBankFileReader({ currency, choices }, (statement, line) => {
      if (line.isPending) {
        announced[statement] = (announced[statement] ?? 0) + 1;
        return;
      }
      const own = lines[statement];
      if (own) own.push(line);
      else lines[statement] = [line];
    });
    for (let at = 0; at < source.size; at += PIECE) {
      reader.write(new Uint8Array(await source.slice(at, at + PIECE).arrayBuffer()));
      tell(Math.min(1, (at + PIECE) / source.size));
    }
    const facts = await reader.end();
    this.#facts = facts;
    this.#lines = lines;
    this.#rows = [];
    this.#currency = currency;
    return {
      ...facts,
      statements: facts.statements.map((statement, index) =>
        summaryOfStatement(statement, lines[index] ?? [], announced[index] ?? 0),
      ),
      milliseconds: performance.now() - began,
    };
  }

  /** Compares a statement with what a bank account has; null known while no account is chosen. */
  compare(index: number, known: LineFactsList | null, dates: AccountDates): Comparison {
    const facts = this.#facts?.statements[index];
    const lines = this.#lines[index] ?? [];
    const statement = facts && { ...facts, lines };
    const states: LineState[] =
      known && statement
        ? sightStatement(known, statement).map(({ kind }) => kind)
        : lines.map(() => 'new');
    const rows = lines.map(
      (line, at): PreviewRow => ({
        kind: 'line',
        line,
        state: states[at] ?? 'new',
        mark: markOf(line, dates),
      }),
    );
    for (const problem of this.#facts?.problems ?? []) {
      if (problem.severity !== 'notice') rows.push({ kind: 'refused', problem });
    }
    rows.sort((a, b) => placeOf(a) - placeOf(b));
    this.#rows[index] = rows;
    const count = (filter: RowFilter) => rows.filter((row) => isShown(row, filter)).length;
    const marked = (mark: LineMark) =>
      rows.filter((row) => row.kind === 'line' && row.mark === mark).length;
    return {
      counts: {
        all: rows.length,
        new: count('new'),
        already: count('already'),
        doubtful: count('doubtful'),
        refused: count('refused'),
        marked: count('marked'),
      },
      beforeOpeningCount: marked('beforeOpening'),
      closedCount: marked('closed'),
      mismatch: statement
        ? mismatchOf(statement, summaryOf(lines), rows, known?.standing ?? null)
        : null,
    };
  }

  /** Some rows of a statement, as `compare` last found them. */
  rows(index: number, filter: RowFilter, from: number, count: number): PreviewRow[] {
    const rows = this.#rows[index] ?? [];
    const shown = filter === 'all' ? rows : rows.filter((row) => isShown(row, filter));
    return shown.slice(from, from + count);
  }

  /** The file's lines in another format. */
  async write(format: WrittenFormat): Promise<Blob> {
    const statements = (this.#facts?.statements ?? []).map((facts, index) => ({
      ...facts,
      lines: this.#lines[index] ?? [],
    }));
    switch (format) {
      case 'json':
        return new Blob([JSON.stringify(statements, null, 1)], { type: 'application/json' });
      case 'csv':
        return new Blob([writeCsv(statements, this.#currency)], { type: 'text/csv' });
      case 'ofx':
        return new Blob([writeOfx(statements, this.#currency)], { type: 'application/x-ofx' });
      case 'camt053':
        return new Blob([writeCamt(statements, this.#currency)], { type: 'application/xml' });
      case 'xlsx':
        return new Blob([new Uint8Array(await writeXlsx(statements, this.#currency))], {
          type: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
        });
    }
  }
}

function summaryOfStatement(
  statement: StatementFacts,
  lines: readonly BankLine[],
  announcedCount: number,
): StatementSummary {
  const summary = summaryOf(lines);
  const paid = (isOut: boolean) =>
    lines.reduce((sum, { amount }) => sum + (amount < 0 === isOut ? amount : 0), 0);
  const before = openingBalance(statement, summary);
  const closing = closingBalance(statement);
  const stated = [...statement.dayBalances, ...(closing ? [closing] : [])];
  const opening = statement.opening === null ? null : before;
  return {
    ...statement,
    lines: summary,
    announcedCount,
    paidOut: paid(true),
    paidIn: paid(false),
    outCount: lines.filter(({ amount }) => amount < 0).length,
    inCount: lines.filter(({ amount }) => amount > 0).length,
    gap: statementGap(statement, summary),
    firstBreak: firstBreak(statedDifferences(opening, lines, stated)),
    before,
    names: {
      accounts: namesOf(lines, ({ prepared }) => prepared?.account ?? null),
      taxes: namesOf(lines, ({ prepared }) => prepared?.tax ?? null),
      payees: namesOf(lines, ({ prepared, payee }) => prepared && payee),
    },
  };
}

function namesOf(
  lines: readonly BankLine[],
  nameOf: (line: BankLine) => string | null,
): readonly string[] {
  return [...new Set(lines.flatMap((line) => nameOf(line) ?? []))].sort();
}

function markOf({ date }: BankLine, { openingDate, closedTo }: AccountDates): LineMark | null {
  if (openingDate !== null && date <= openingDate) return 'beforeOpening';
  return closedTo !== null && date <= closedTo ? 'closed' : null;
}

function isShown(row: PreviewRow, filter: RowFilter): boolean {
  if (filter === 'all') return true;
  if (row.kind === 'refused') return filter === 'refused';
  return filter === 'marked' ? row.mark !== null : row.state === filter;
}

function placeOf(row: PreviewRow): number {
  return row.kind === 'line' ? row.line.place : row.problem.line;
}

/** Compares where the account would stand on the closing day with what the file states. */
function mismatchOf(
  statement: StatementFacts,
  lines: LinesSummary,
  rows: readonly PreviewRow[],
  standing: number | null,
): Comparison['mismatch'] {
  const stated = expectedClosing(statement, lines);
  if (stated === null || standing === null) return null;
  const wouldBe = rows.reduce(
    (sum, row) =>
      row.kind === 'line' && row.state === 'new' && row.line.date <= stated.date
        ? sum + row.line.amount
        : sum,
    standing,
  );
  return wouldBe === stated.amount ? null : { wouldBe, stated };
}
