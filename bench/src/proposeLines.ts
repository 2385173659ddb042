import { textOf, wordingFeatures } from '@zubrell/core/propose/habit/features';
import { labelOf, makeMemory } from '@zubrell/core/propose/habit/memory';
import { predict } from '@zubrell/core/propose/habit/predict';
import { proposeFromHabit } from '@zubrell/core/propose/habit/proposeFromHabit';
import { stemOf } from '@zubrell/core/text/stemOf';
import { type Business, businesses, rowsOf } from './accuracy/businesses.ts';
import { sized } from './sized.ts';

/** So many decided lines, and the aim in lines a second. */
const SIZES = [
  { decided: sized(100_000, 1_000), aim: 20_000 },
  { decided: sized(1_000_000, 2_000), aim: 10_000 },
];
/** One business has so many lines; more are of several together. */
const OF_ONE = sized(130_000, 1_500);
const MIX = { payees: sized(1_200, 60), fresh: 10, months: sized(96, 6) };
const ASKED = sized(50_000, 500);
const BOOKS = { isAccountOn: () => true, shift: 0 };

/** Proposals from memories of decided lines, on one core. */
export async function proposeLines(): Promise<string> {
  const wholesale = businesses.find(({ name }) => name === 'wholesale');
  if (!wholesale) throw new Error('the wholesale is gone');
  return SIZES.map((size) => proposedFrom(wholesale, size)).join('');
}

function proposedFrom(business: Business, { decided, aim }: (typeof SIZES)[number]): string {
  const wanted = decided + ASKED;
  const large = { ...business, mix: { ...business.mix, ...MIX } };
  const rows = Array.from({ length: Math.ceil(wanted / OF_ONE) }, (_, variant) =>
    rowsOf(large, variant + 1).slice(0, OF_ONE),
  )
    .flat()
    .sort((a, b) => (a.date < b.date ? -1 : a.date > b.date ? 1 : 0))
    .slice(0, wanted);
  const memory = makeMemory();
  const began = performance.now();
  const lineOf = (row: (typeof rows)[number]) => ({
    ...row,
    payee: null,
    bankAccountId: row.bankAccount,
  });
  for (const [at, row] of rows.slice(0, decided).entries()) {
    const coded = { accountId: row.account, payeeId: row.payee, taxCodeId: row.taxCode };
    const line = lineOf(row);
    const label = labelOf(row.payee, stemOf(line));
    const decided = { id: String(at), label, position: at, ...coded, weight: 1 };
    memory.add(decided, line, wordingFeatures(textOf(line)));
  }
  const lines = rows.slice(decided).map(lineOf);
  const learned = performance.now();
  let proposed = 0;
  for (const line of lines) {
    const features = wordingFeatures(textOf(line));
    if (proposeFromHabit(predict(memory, line, features), BOOKS)) proposed += 1;
  }
  const speed = lines.length / ((performance.now() - learned) / 1_000);
  return (
    `proposals for ${lines.length} lines from a memory of ${decided}: ` +
    `${Math.round(speed).toLocaleString('en')} lines a second (aim: ${aim.toLocaleString('en')})  ` +
    `${speed >= aim ? 'met' : 'NOT MET'}, ${proposed} proposed; ` +
    `learned in ${((learned - began) / 1_000).toFixed(1)} s\n`
  );
}
