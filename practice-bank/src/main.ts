import { readFileSync } from 'node:fs';
import { buildBank } from './app.ts';
import { openBank } from './bank.ts';
import { BankRecords } from './records.ts';

const { PRACTICE_BANK_RECORDS: file, PORT, ZUBRELL_TODAY } = process.env;
if (file === undefined) throw new Error('PRACTICE_BANK_RECORDS must name a file of records.');
const records = BankRecords.parse(JSON.parse(readFileSync(file, 'utf8')));
const today = ZUBRELL_TODAY ?? new Date().toISOString().slice(0, 10);
const app = buildBank(openBank(records, today), { slowFor: 8_000 });
const url = await app.listen({ port: Number(PORT ?? 4320), host: '127.0.0.1' });
process.stdout.write(`The practice bank is at ${url}\n`);
for (const signal of ['SIGINT', 'SIGTERM'] as const) {
  process.on(signal, () => {
    app.close().then(
      () => process.exit(0),
      () => process.exit(1),
    );
  });
}
