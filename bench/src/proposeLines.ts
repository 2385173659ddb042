import { textOf, wordingFeatures } from '@zubrell/core/propose/habit/features';
import { makeMemory } from '@zubrell/core/propose/habit/memory';
import { predict } from '@zubrell/core/propose/habit/predict';
import { proposeFromHabit } from '@zubrell/core/propose/habit/proposeFromHabit';
import { businesses, rowsOf } from './accuracy/businesses.ts';
import { sized } from './sized.ts';

const LINES = sized(100_000, 1_000);
const AIM = 20_000;
const BOOKS = { isAccountOn: () => true, shift: 0 };

/** Proposals for 100,000 lines from a memory of 100,000 decided ones, on one core. */
export async function proposeLines(): Promise<string> {
  const wholesale = businesses.find(({ name }) => name === 'wholesale');
  if (!wholesale) throw new Error('the wholesale is gone');
  const mix = { ...wholesale.mix, payees: 1_200, fresh: 10, months: 96 };
  const rows = rowsOf({ ...wholesale, mix }, 1).slice(0, 2 * LINES);
  const lines = rows.map((row) => ({ ...row, payee: null, bankAccountId: row.bankAccount }));
  const memory = makeMemory();
  const began = performance.now();
  for (let at = 0; at < LINES; at += 1) {
    const [row, line] = [rows[at], lines[at]];
    if (!row || !line) continue;
    const decided = { id: String(at), accountId: row.account, payeeId: row.payee };
    const features = wordingFeatures(textOf(line));
    memory.add({ ...decided, taxCodeId: row.taxCode, weight: 1 }, line, features);
  }
  const learned = performance.now();
  let proposed = 0;
  for (let at = LINES; at < lines.length; at += 1) {
    const line = lines[at];
    if (!line) continue;
    const features = wordingFeatures(textOf(line));
    if (proposeFromHabit(predict(memory, line, features), BOOKS)) proposed += 1;
  }
  const seconds = (performance.now() - learned) / 1_000;
  const speed = (lines.length - LINES) / seconds;
  return (
    `proposals for ${lines.length - LINES} lines from a memory of ${LINES}: ` +
    `${Math.round(speed).toLocaleString('en')} lines a second (aim: ${AIM.toLocaleString('en')})  ` +
    `${speed >= AIM ? 'met' : 'NOT MET'}, ${proposed} proposed; ` +
    `learned in ${((learned - began) / 1_000).toFixed(1)} s\n`
  );
}
