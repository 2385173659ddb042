import { Cycle, HolderNames, TaxBoxes } from '@zubrell/contract/books';
import { Coding } from '@zubrell/contract/coding';
import { Exchange } from '@zubrell/contract/common';
import { DocumentLine } from '@zubrell/contract/documents';
import { JournalLegs } from '@zubrell/contract/journals';
import { HandEntry } from '@zubrell/contract/ledger';
import { DifferenceAnswer } from '@zubrell/contract/pairing';
import { RuleBody } from '@zubrell/contract/rules';
import { getTableColumns } from 'drizzle-orm';
import type { PgColumn, PgTable } from 'drizzle-orm/pg-core';
import { z } from 'zod';
import {
  accounts,
  bankAccounts,
  costObjects,
  exchangeRates,
  payees,
  taxCodes,
  taxRates,
} from '../../db/schema/books.ts';
import {
  allocations,
  clientShares,
  decisionLegs,
  decisionLines,
  decisions,
  documents,
  entries,
  journalPlans,
  legs,
} from '../../db/schema/ledger.ts';
import {
  aliases,
  batches,
  dayBalances,
  learnedStems,
  lines,
  noiseWords,
  sightings,
} from '../../db/schema/lines.ts';
import { attachments } from '../../db/schema/questions.ts';
import { rules } from '../../db/schema/rules.ts';

/** What a column is when an archive is read that doesn't carry it: of the step, of who reads it, or just that. */
export type Fixed = { readonly is: 'step' | 'user' | 'now' } | { readonly value: string | null };

const STEP: Fixed = { is: 'step' };
const USER: Fixed = { is: 'user' };
const NOW: Fixed = { is: 'now' };
const NONE: Fixed = { value: null };
const YES: Fixed = { value: 'true' };
const NO: Fixed = { value: 'false' };
const ZERO: Fixed = { value: '0' };
const LIST: Fixed = { value: '[]' };

/** A table of the books, as an archive has it: a file of its rows. */
export interface ArchiveTable {
  /** Of the table in the database, and of the file. */
  readonly name: string;
  readonly table: PgTable;
  /** The columns that the archive doesn't carry, by name. */
  readonly fixed: Readonly<Record<string, Fixed>>;
  /** What stands in columns of JSON. */
  readonly json: Readonly<Record<string, z.ZodType>>;
}

function of(
  name: string,
  table: PgTable,
  fixed: ArchiveTable['fixed'] = {},
  json: ArchiveTable['json'] = {},
): ArchiveTable {
  return { name, table, fixed, json };
}

const PreparedCoding = z.object({
  account: z.string().nullable(),
  tax: z.string().nullable(),
  costCentre: z.string().nullable(),
});

/** The tables of an archive, each after those that it names. */
export const archiveTables: readonly ArchiveTable[] = [
  of('accounts', accounts, { is_here: YES }),
  of('tax_codes', taxCodes, { is_here: YES }, { boxes: TaxBoxes }),
  of('tax_rates', taxRates),
  of('payees', payees, { is_here: YES }),
  of('cost_objects', costObjects, { is_here: YES }),
  of(
    'bank_accounts',
    bankAccounts,
    { is_here: YES, closed_to: NONE },
    { holder_names: HolderNames, cycle: Cycle },
  ),
  of('exchange_rates', exchangeRates, { is_here: YES }),
  of(
    'rules',
    rules,
    { is_here: YES, since_step: STEP, stopped_step: NONE, last_step: STEP },
    { body: RuleBody },
  ),
  of(
    'journal_plans',
    journalPlans,
    { is_here: YES },
    { legs: JournalLegs, skipped: z.array(z.string()) },
  ),
  of('batches', batches, {
    upload_id: NONE,
    feed_id: NONE,
    moved_from: NONE,
    statement_index: ZERO,
    status: { value: 'kept' },
    format: NONE,
    refusal: NONE,
    problems: LIST,
    layout: NONE,
    opening: NONE,
    created_by: USER,
    created_at: NOW,
  }),
  of('day_balances', dayBalances),
  of(
    'lines',
    lines,
    {
      is_here: YES,
      moved_from: NONE,
      twice_of: NONE,
      asked: NONE,
      held: NONE,
      last_step: STEP,
      relearn_step: ZERO,
    },
    { prepared: PreparedCoding },
  ),
  of('sightings', sightings, { is_fold: NO, own: NONE, apart_line_id: NONE }),
  of('aliases', aliases, { is_live: YES, step: STEP }),
  of('noise_words', noiseWords),
  of('learned_stems', learnedStems),
  of(
    'entries',
    entries,
    { is_void: NO, is_counted: YES, step: STEP },
    { content: HandEntry, exchange: Exchange },
  ),
  of('legs', legs),
  of('client_shares', clientShares),
  of(
    'documents',
    documents,
    { step: STEP, last_step: STEP },
    { exchange: Exchange, lines: z.array(DocumentLine) },
  ),
  of('decisions', decisions, { step: STEP }, { coding: Coding, difference: DifferenceAnswer }),
  of('decision_lines', decisionLines, { is_live: YES, last_step: STEP }),
  of('decision_legs', decisionLegs, { is_live: YES }),
  of('allocations', allocations, { is_live: YES }),
  of('attachments', attachments, { bytes: NONE, added_by: USER }),
];

/** What the database works out by itself, by table. */
const COMPUTED: Readonly<Record<string, readonly string[]>> = {
  legs: ['own', 'shown_account_id', 'date', 'payee_id'],
  decisions: ['payee_id'],
  decision_lines: ['date', 'amount', 'account_id', 'is_unseen'],
};

/** The columns that an archive carries of a table, in their order. */
export function carriedColumns({ name, table, fixed }: ArchiveTable): readonly PgColumn[] {
  return Object.values(getTableColumns(table)).filter(
    (column) =>
      column.name !== 'books_id' &&
      !(column.name in fixed) &&
      !COMPUTED[name]?.includes(column.name),
  );
}
