import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { putInto } from '@zubrell/core/groupBy';
import { projectFolder } from '@zubrell/server/projectFolder';
import { parse } from 'csv-parse/sync';
import type { MadeRow } from './businesses.ts';

const FOLDER = join(projectFolder, 'bench/data/learning');

/** A row of the files in bench/data. */
interface KeptRow {
  readonly date: string;
  readonly amount: string;
  readonly description: string;
  readonly reference: string;
  readonly bank_account: string;
  readonly account: string;
  readonly payee: string;
  readonly tax_code: string;
  readonly kind: string;
  readonly knowable: string;
  readonly told_by: string;
}

/** The businesses whose lines stand in bench/data, each with its variants. */
export function keptBusinesses(): ReadonlyMap<string, readonly (readonly MadeRow[])[]> {
  const found = new Map<string, (readonly MadeRow[])[]>();
  for (const file of readdirSync(FOLDER)
    .filter((name) => name.endsWith('.csv'))
    .sort()) {
    const name = file.split('-')[0] ?? file;
    const rows: readonly KeptRow[] = parse(readFileSync(join(FOLDER, file)), {
      columns: true,
      bom: true,
    });
    putInto(found, name, rows.map(rowOf));
  }
  return found;
}

function rowOf(row: KeptRow): MadeRow {
  return {
    date: row.date,
    amount: Math.round(Number(row.amount) * 100),
    description: row.description,
    reference: row.reference,
    bankAccount: row.bank_account,
    account: row.account,
    payee: row.payee,
    taxCode: row.tax_code,
    kind: row.kind,
    isKnowable: row.knowable === '1',
    toldBy: row.told_by,
  };
}
