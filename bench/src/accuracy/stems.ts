import { learnNoise } from '@zubrell/core/text/learnNoise';
import { learnStems } from '@zubrell/core/text/learnStems';
import { stemOf } from '@zubrell/core/text/stemOf';
import { businesses, type MadeRow, rowsOf } from './businesses.ts';

/** How well stacks of look-alikes are payees, on made-up businesses of which nothing was decided yet. */
export async function stems(): Promise<string> {
  const said = [
    'stacks of look-alikes, nothing decided yet: how many, and lines with their stack’s main payee',
  ];
  for (const business of businesses) {
    const rows = rowsOf(business, 1);
    const payees = new Set(rows.map(({ payee }) => payee)).size;
    const plain = rows.map((row) => stemOf(textsOf(row)));
    const began = performance.now();
    const noise = learnNoise(rows.map(textsOf));
    const own = rows.map((row) => stemOf(textsOf(row), noise));
    const counts = new Map<string, number>();
    for (const stem of own) counts.set(stem, (counts.get(stem) ?? 0) + 1);
    const learned = learnStems(
      [...counts].map(([stem, count]) => ({ stem, count, payeeIds: [], current: stem })),
    );
    const spent = performance.now() - began;
    said.push(
      `  ${business.name.padEnd(12)}${business.isKeptAside ? ' (kept aside)' : ''} ` +
        `${rows.length} lines, ${payees} payees: by fixed words ${purity(rows, plain)}; ` +
        `learned ${purity(
          rows,
          own.map((stem) => learned.get(stem) ?? stem),
        )}, ${spent.toFixed(0)} ms`,
    );
  }
  return `${said.join('\n')}\n`;
}

const textsOf = ({ description, reference }: MadeRow) => ({ description, reference, payee: null });

/** How many stacks there are, and the share of lines that are of their stack's most frequent payee. */
function purity(rows: readonly MadeRow[], stacks: readonly string[]): string {
  const byStack = new Map<string, Map<string, number>>();
  rows.forEach(({ payee }, at) => {
    const stack = stacks[at] ?? '';
    const own = byStack.get(stack) ?? new Map<string, number>();
    own.set(payee, (own.get(payee) ?? 0) + 1);
    byStack.set(stack, own);
  });
  let main = 0;
  for (const own of byStack.values()) main += Math.max(...own.values());
  return `${byStack.size} stacks, ${((100 * main) / rows.length).toFixed(2)} %`;
}
