import { randomUUID } from 'node:crypto';
import { setTimeout as pause } from 'node:timers/promises';
import type { SweepSummary } from '@zubrell/contract/desk';
import type { Feeds } from '@zubrell/contract/feeds';
import type { PairingView } from '@zubrell/contract/pairing';
import { monthsBetween } from '@zubrell/core/dates/calendarDate';
import { plainKeep } from '@zubrell/server/testing/client';
import { ofxFile } from '@zubrell/server/testing/files';
import { sendUntilAnswered } from './brokenServers.ts';
import { type FaultBank, FED_NUMBER } from './faultBank.ts';

interface Answer {
  readonly id?: string;
  readonly uploadId?: string;
  readonly batchId?: string;
  readonly page?: string;
  readonly feedIds?: readonly string[];
  /** Of an error. */
  readonly code?: string;
}

/** The books that are worked on, and what is needed of them. */
export interface Begun {
  readonly path: string;
  readonly bankAccountId: string;
  readonly accountId: string;
  readonly payeeId: string;
  readonly ruleId: string;
  readonly feedId: string;
}

/** Sees every step, so that no line is left out as changed. */
const SEEN = { seenStep: 1e6 };
/** Each file has a month of its own: one more of the same days may hold the same payments. */
const MONTHS = monthsBetween('2016-01', '2025-12');
/** Lines of a file that a rule posts at once, and those of a fetch. */
const BY_RULE = 5;
const FETCHED = 5;

/** A part that is all of a line. */
const wholeLine = (accountId: string) => ({
  accountId,
  taxCodeId: null,
  share: { kind: 'rest' },
  tax: null,
});

/** The rule of card payouts, which holds them or posts them at once. */
const cardsRule = (accountId: string, isPosting: boolean) => ({
  name: 'Cards',
  isOn: true,
  body: {
    takes: {
      direction: 'out',
      bankAccountIds: null,
      match: 'all',
      conditions: [
        { kind: 'text', field: 'wording', test: 'has', text: 'hedgerow', isExact: false },
      ],
    },
    result: {
      kind: 'code',
      payee: { kind: 'open' },
      parts: [wholeLine(accountId)],
      note: null,
    },
    after: isPosting ? { kind: 'post', largest: 1_000_000 } : { kind: 'hold' },
  },
  ...SEEN,
});

/** What a bookkeeper does meanwhile, each request sent until it is answered, with the same key. */
export function workOn(urls: readonly string[], cookie: string, bank: FaultBank, lines: number) {
  const refused = new Map<string, number>();

  async function post(path: string, body: object = {}, method = 'POST'): Promise<Answer> {
    const answer = await sendUntilAnswered<Answer>(urls, path, {
      method,
      body: JSON.stringify(body),
      headers: { cookie, 'content-type': 'application/json', 'idempotency-key': randomUUID() },
    });
    const { code } = answer;
    if (code !== undefined) refused.set(code, (refused.get(code) ?? 0) + 1);
    return answer;
  }
  const get = <T>(path: string): Promise<T> =>
    sendUntilAnswered(urls, path, { headers: { cookie } });

  async function keepFile({ path, bankAccountId }: Begun, no: number): Promise<string> {
    const wording = (at: number) => {
      if (at === 0) return `PENHALLOW CLAY ${no}`;
      return at <= BY_RULE ? `HEDGEROW CARDS ${no}` : `ORRIN BELL ${no}`;
    };
    const month = MONTHS[no % MONTHS.length];
    const made = Array.from({ length: lines }, (_, at) => ({
      date: `${month}-${String(1 + (at % 28)).padStart(2, '0')}`,
      amount: `-${1 + no}.${String(at % 100).padStart(2, '0')}`,
      text: wording(at),
      id: `${no}-${at}`,
    }));
    const { uploadId } = await sendUntilAnswered<Answer>(
      urls,
      `${path}/uploads?fileName=${no}.ofx`,
      {
        method: 'POST',
        body: ofxFile(made, '0.00'),
        headers: { cookie, 'content-type': 'application/octet-stream' },
      },
    );
    const { batchId = '' } = await post(`${path}/batches`, {
      uploadId,
      statementIndex: 0,
      bankAccountId,
      ...plainKeep,
      withOpening: false,
    });
    for (;;) {
      const { status } = await get<{ status: string }>(`${path}/batches/${batchId}`);
      if (status !== 'reading') return batchId;
      await pause(100);
    }
  }

  /** Enters a payment and pairs a line with it. */
  async function pair(
    { path, bankAccountId, accountId, payeeId }: Begun,
    line: { readonly lineId: string; readonly amount: number; readonly date: string },
  ): Promise<void> {
    const entry = {
      kind: 'payment',
      date: line.date,
      amount: Math.abs(line.amount),
      payeeId,
      bankAccountId,
      number: null,
      note: null,
      parts: [wholeLine(accountId)],
    };
    await post(`${path}/entries`, { entry });
    // Undoing in another round may have taken the line's batch back.
    const { fits } = await get<Partial<PairingView>>(`${path}/pairing?lineId=${line.lineId}`);
    const fitting = fits?.find(({ amount }) => amount === line.amount);
    const wanted = { lineIds: [line.lineId], targetIds: [fitting?.id], difference: null, ...SEEN };
    if (fitting) await post(`${path}/lines/pair`, wanted);
  }

  async function postAlike({ path, accountId }: Begun, lineIds: readonly string[]): Promise<void> {
    if (lineIds.length === 0) return;
    const coding = { payeeId: null, parts: [wholeLine(accountId)], note: null };
    await post(`${path}/lines/post`, { target: { lineIds }, coding, ...SEEN });
  }

  async function sweep({ path }: Begun): Promise<void> {
    const { count, seenStep, seen } = await get<SweepSummary>(`${path}/sweep`);
    if (count > 0) await post(`${path}/lines/sweep`, { scope: {}, without: [], seenStep, seen });
  }

  async function fetchFeed({ path, feedId }: Begun, no: number): Promise<void> {
    bank.book(FETCHED, no);
    await post(`${path}/feeds/${feedId}/fetch`);
    for (;;) {
      const { feeds } = await get<Feeds>(`${path}/feeds`);
      if (!feeds.some(({ isFetching }) => isFetching)) return;
      await pause(100);
    }
  }

  return {
    /** How often requests were refused, by the error's name. */
    refused: (): string => [...refused].map(([code, count]) => `${code} ${count}`).join(', '),
    /** Makes books with two bank accounts, a rule that posts at once, and a feed. */
    async begin(): Promise<Begun> {
      const { id } = await post('/api/books', { name: 'Larkmoor Kiln Works', currency: 'EUR' });
      const path = `/api/books/${id}`;
      const account = { kind: 'current', bank: 'Wick & Alder' };
      const everyday = { ...account, name: 'Everyday', number: '4471' };
      const { id: bankAccountId = '' } = await post(`${path}/bank-accounts`, everyday);
      await post(`${path}/bank-accounts`, { ...account, name: 'Studio', number: FED_NUMBER });
      const payee = { name: 'Penhallow Clay', kind: 'supplier' };
      const { id: payeeId = '' } = await post(`${path}/payees`, payee);
      const { accounts } = await get<{ accounts: { id: string; type: string }[] }>(`${path}/setup`);
      const accountId = accounts.find(({ type }) => type === 'expense')?.id ?? '';
      const { id: ruleId = '' } = await post(`${path}/rules`, cardsRule(accountId, false));
      const { page = '' } = await post(`${path}/consents`, { connector: 'practice' });
      const { feedIds = [] } = await post(`${path}/consents/finish`, await bank.allow(page));
      return { path, bankAccountId, accountId, payeeId, ruleId, feedId: feedIds[0] ?? '' };
    },
    /**
     * Keeps a file, pairs one of its lines, posts some, and now and then sweeps, fetches and takes a step back.
     *
     * @returns the batch
     */
    async round(begun: Begun, no: number): Promise<string> {
      const { path, accountId, ruleId } = begun;
      const batchId = await keepFile(begun, no);
      const kept = await get<{
        items?: { lineId: string; amount: number; date: string; description: string }[];
      }>(`${path}/batches/${batchId}/lines`);
      const items = kept.items ?? [];
      const clay = items.find(({ description }) => description.startsWith('PENHALLOW'));
      if (clay) await pair(begun, clay);
      const of = (payee: string) =>
        items
          .filter(({ description }) => description.startsWith(payee))
          .slice(0, 20)
          .map(({ lineId }) => lineId);
      await postAlike(begun, of('ORRIN'));
      // Until the rule has proved itself, and after it was stopped, its lines are posted by hand.
      const { code } = await post(`${path}/rules/${ruleId}`, cardsRule(accountId, true), 'PUT');
      if (code !== undefined) await postAlike(begun, of('HEDGEROW'));
      if (no % 4 === 2) await sweep(begun);
      if (no % 3 === 0) await post(`${path}/steps/undo`, { step: null, withLater: false });
      if (no % 2 === 0) await fetchFeed(begun, no);
      return batchId;
    },
  };
}
