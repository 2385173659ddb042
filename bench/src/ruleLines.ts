import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { wordingFeatures } from '@zubrell/core/propose/habit/features';
import { takesOf } from '@zubrell/core/propose/rule/conditions';
import { verdictOf } from '@zubrell/core/propose/rule/nearMiss';
import type { RuleTakes } from '@zubrell/core/propose/rule/rule';
import { indexRules } from '@zubrell/core/propose/rule/ruleIndex';
import { type RuleLine, readRuleLine } from '@zubrell/core/propose/rule/ruleLine';
import { businesses, rowsOf } from './accuracy/businesses.ts';
import { median } from './ratio.ts';
import { sized } from './sized.ts';

const LINES = sized(100_000, 2_000);
const RULES = sized(2_000, 50);
const AIM_LOOP = 20;
const AIM_GREP = 5;
const TRY_AIM = 150;
const ROUNDS = 5;

/** 2,000 rules over 100,000 lines: the index against a plain loop, and against grep over the same text. */
export async function ruleLines(): Promise<string> {
  const lines = manyLines();
  const words = telling(lines);
  const rules = words.map((word, at) => ({ takes: ruleTakes(word, at) }));
  const ours: number[] = [];
  let taken = 0;
  for (let round = 0; round <= ROUNDS; round += 1) {
    taken = 0;
    const spent = timed(() => {
      const index = indexRules(rules);
      for (const line of lines) if (index.first(line) >= 0) taken += 1;
    });
    if (round > 0) ours.push(spent);
  }
  const own = median(ours);
  let plainly = 0;
  const loop = timed(() => {
    const tests = rules.map(({ takes }) => takesOf(takes));
    for (const line of lines) if (tests.some((holds) => holds(line))) plainly += 1;
  });
  if (plainly !== taken) throw new Error(`the index found ${taken} lines, the loop ${plainly}`);
  const grep = grepTime(words, lines);
  const tried = tryOut(lines, words[0] ?? '');
  const fold = loop / own;
  const times = own / grep;
  return (
    `${rules.length} rules over ${lines.length} lines, ${taken} taken\n` +
    `  index ${own.toFixed(0)} ms, plain loop ${loop.toFixed(0)} ms, ` +
    `grep -F -w -f ${grep.toFixed(0)} ms\n` +
    `  ${fold.toFixed(0)} times faster than the loop (aim: at least ${AIM_LOOP})  ` +
    `${fold >= AIM_LOOP ? 'met' : 'NOT MET'}; ` +
    `${times.toFixed(1)} times grep (aim: at most ${AIM_GREP})  ` +
    `${times <= AIM_GREP ? 'met' : 'NOT MET'}\n` +
    `  one rule tried on all lines, with near misses: ${tried.toFixed(0)} ms ` +
    `(aim: under ${TRY_AIM})  ${tried < TRY_AIM ? 'met' : 'NOT MET'}\n`
  );
}

function manyLines(): readonly RuleLine[] {
  const wholesale = businesses.find(({ name }) => name === 'wholesale');
  if (!wholesale) throw new Error('the wholesale is gone');
  const mix = { ...wholesale.mix, payees: 2_400, fresh: 12, months: 60 };
  return rowsOf({ ...wholesale, mix }, 1)
    .slice(0, LINES)
    .map(({ date, amount, description, reference, bankAccount }) =>
      readRuleLine({
        date,
        amount,
        description,
        reference,
        bankAccountId: bankAccount,
        payee: null,
        counterparty: null,
        type: null,
        chequeNumber: null,
        category: null,
      }),
    );
}

/** Words that rules look for: those that stand on neither few nor many lines. */
function telling(lines: readonly RuleLine[]): readonly string[] {
  const counts = new Map<string, number>();
  for (const { plain } of lines) {
    for (const word of wordingFeatures(plain.wording).words) {
      counts.set(word, (counts.get(word) ?? 0) + 1);
    }
  }
  return [...counts]
    .filter(([word, count]) => word.length > 3 && count < LINES / 50)
    .sort((a, b) => b[1] - a[1])
    .slice(0, RULES)
    .map(([word]) => word);
}

/** A rule for a word; some ask for more besides. */
function ruleTakes(word: string, at: number): RuleTakes {
  const text = { kind: 'text', field: 'wording', test: 'has', text: word, isExact: false } as const;
  const amount = { kind: 'amount', from: 1_000, to: 90_000 } as const;
  return {
    direction: at % 2 === 0 ? 'either' : 'out',
    bankAccountIds: null,
    match: 'all',
    conditions: at % 3 === 0 ? [text, amount] : [text],
  };
}

function grepTime(words: readonly string[], lines: readonly RuleLine[]): number {
  const folder = mkdtempSync(join(tmpdir(), 'zubrell-bench-'));
  const [wordFile, lineFile] = [join(folder, 'words'), join(folder, 'lines')];
  writeFileSync(wordFile, words.join('\n'));
  writeFileSync(lineFile, lines.map(({ plain }) => plain.wording.trim()).join('\n'));
  const spent: number[] = [];
  for (let round = 0; round <= ROUNDS; round += 1) {
    const time = timed(() => {
      spawnSync('grep', ['-c', '-F', '-w', '-f', wordFile, lineFile], {
        env: { ...process.env, LC_ALL: 'C' },
      });
    });
    if (round > 0) spent.push(time);
  }
  rmSync(folder, { recursive: true });
  return median(spent);
}

/** What a try-out does for each key that is typed. */
function tryOut(lines: readonly RuleLine[], word: string): number {
  const takes = ruleTakes(word, 0);
  const spent: number[] = [];
  for (let round = 0; round <= ROUNDS; round += 1) {
    const time = timed(() => {
      const judge = verdictOf(takes);
      return lines.filter((line) => judge(line) !== null).length;
    });
    if (round > 0) spent.push(time);
  }
  return median(spent);
}

function timed(work: () => unknown): number {
  const began = performance.now();
  work();
  return performance.now() - began;
}
