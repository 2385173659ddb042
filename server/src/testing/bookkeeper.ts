import type { BooksSetup } from '@zubrell/contract/books';
import type { Coding } from '@zubrell/contract/coding';
import type { Made, StepDone } from '@zubrell/contract/common';
import type {
  DeskLine,
  DeskLines,
  LineSheet,
  LinesDone,
  Proof,
  ScopeProof,
  Stack,
  Steps,
  UndoDone,
} from '@zubrell/contract/desk';
import type { DocumentSheet } from '@zubrell/contract/documents';
import type { Balances } from '@zubrell/contract/ledger';
import type { DifferenceAnswer } from '@zubrell/contract/pairing';
import type { Statement, StatementRow, StatementRows } from '@zubrell/contract/statements';
import type {
  BankAccountId,
  BatchId,
  BooksId,
  DocumentId,
  LineId,
  PayeeId,
  TaxCodeId,
} from '@zubrell/core/ids';
import type { Client } from './client.ts';

/** Sees every step, so that no line is left out as changed. */
const SEEN = { seenStep: Number.MAX_SAFE_INTEGER };

/** What tests do with one set of books over the API, each in a few words. */
export type Bookkeeper = ReturnType<typeof bookkeeper>;

/** Works on books over the API as a user would. */
export function bookkeeper(client: Client, booksId: BooksId) {
  const path = `/api/books/${booksId}`;
  const send = <T>(method: 'POST' | 'PATCH' | 'PUT', place: string, body: object) =>
    client.send<T>(method, `${path}${place}`, body);
  const setup = () => client.get<BooksSetup>(`${path}/setup`);
  const accountId = async (code: string) =>
    (await setup()).accounts.find((account) => account.code === code)?.id ?? '';

  /** A coding of a whole line. */
  const codingTo = (
    id: string,
    payeeId: PayeeId | null = null,
    taxCodeId: TaxCodeId | null = null,
  ): Coding => ({
    payeeId,
    note: null,
    parts: [{ accountId: id, taxCodeId, share: { kind: 'rest' }, tax: null }],
  });

  return {
    path,
    setup,
    accountId,
    codingTo,
    payee: (name: string, kind = 'supplier') => send<Made>('POST', '/payees', { name, kind }),
    changePayee: (id: string, change: object) => send<StepDone>('PATCH', `/payees/${id}`, change),
    renamePayee: (id: string, name: string) => send<StepDone>('PATCH', `/payees/${id}`, { name }),
    account: (code: string, name: string, parentId: string | null = null) =>
      send<Made>('POST', '/accounts', { code, name, type: 'expense', parentId }),
    bankAccount: (
      name: string,
      number: string | null,
      kind = 'savings',
      currency: string | null = null,
    ) => send<Made>('POST', '/bank-accounts', { name, kind, bank: null, number, currency }),
    opening: (
      bankAccountId: BankAccountId,
      date: string,
      amount: number,
      rate: string | null = null,
    ) => send<StepDone>('POST', `/bank-accounts/${bankAccountId}/opening`, { date, amount, rate }),
    /** Says what 1 US dollar is worth on a day. */
    dollar: (date: string, rate: string) =>
      send<StepDone>('POST', '/exchange-rates', { currency: 'USD', date, rate }),
    addLine: async (
      bankAccountId: BankAccountId,
      date: string,
      amount: number,
      description: string,
    ) => {
      const done = await send<StepDone>('POST', `/bank-accounts/${bankAccountId}/lines`, {
        date,
        amount,
        description,
        reference: null,
      });
      const { lines } = await client.get<{ lines: { id: string; description: string }[] }>(
        `${path}/found-lines?search=${encodeURIComponent(description)}`,
      );
      const id = lines.find((line) => line.description === description)?.id ?? '';
      return { ...done, id };
    },
    count: (bankAccountId: BankAccountId, date: string, amount: number) =>
      send<StepDone>('POST', `/bank-accounts/${bankAccountId}/balances`, { date, amount }),
    post: (lineIds: readonly LineId[], coding: Coding, isNew = true) =>
      send<LinesDone>('POST', '/lines/post', { target: { lineIds }, coding, isNew, ...SEEN }),
    recode: (lineIds: readonly LineId[], change: object) =>
      send<LinesDone>('POST', '/lines/recode', { target: { lineIds }, ...change, ...SEEN }),
    reopen: (lineIds: readonly LineId[]) =>
      send<LinesDone>('POST', '/lines/reopen', { target: { lineIds }, ...SEEN }),
    exclude: (lineIds: readonly LineId[], reason: string, originals?: Record<string, string>) =>
      send<LinesDone>('POST', '/lines/exclude', {
        target: { lineIds },
        reason,
        as: 'excluded',
        ...(originals ? { originals } : {}),
        ...SEEN,
      }),
    move: (lineIds: readonly LineId[], bankAccountId: BankAccountId) =>
      send<LinesDone>('POST', '/lines/move', { target: { lineIds }, bankAccountId, ...SEEN }),
    pair: (
      lineIds: readonly LineId[],
      targetIds: readonly string[],
      difference: DifferenceAnswer | null = null,
    ) => send<LinesDone>('POST', '/lines/pair', { lineIds, targetIds, difference, ...SEEN }),
    enter: (entry: object) => send<Made>('POST', '/entries', { entry }),
    voidEntry: (id: string) => send<Made>('POST', `/entries/${id}/void`, {}),
    /** A statement with the rows of all its pages. */
    async statement(bankAccountId: BankAccountId, to: string) {
      const of = `${path}/bank-accounts/${bankAccountId}/statements/${to}`;
      const rows: StatementRow[] = [];
      let next: string | null = null;
      do {
        const page: StatementRows = await client.get(
          `${of}/rows${next === null ? '' : `?cursor=${next}`}`,
        );
        rows.push(...page.items);
        next = page.next;
      } while (next !== null);
      return { ...(await client.get<Statement>(of)), rows };
    },
    /** Ends a statement on another day. */
    endStatement: (bankAccountId: BankAccountId, to: string, on: string) =>
      send<StepDone>('PATCH', `/bank-accounts/${bankAccountId}/statements/${to}`, { lastDay: on }),
    closingBalance: (bankAccountId: BankAccountId, to: string, amount: number, currency = 'EUR') =>
      send<StepDone>('PATCH', `/bank-accounts/${bankAccountId}/statements/${to}`, {
        closing: { amount, currency },
      }),
    agree: (bankAccountId: BankAccountId, to: string, seenStep = SEEN.seenStep) =>
      send<StepDone>('POST', `/bank-accounts/${bankAccountId}/statements/${to}/agree`, {
        seenStep,
      }),
    reopenStatement: (bankAccountId: BankAccountId, to: string) =>
      send<StepDone>('POST', `/bank-accounts/${bankAccountId}/statements/${to}/reopen`, {
        reason: 'A line was missing',
      }),
    document: (document: object) => send<Made>('POST', '/documents', document),
    changeDocument: (id: string, document: object) =>
      send<Made>('PUT', `/documents/${id}`, { document, ...SEEN }),
    voidDocument: (id: string) => send<Made>('POST', `/documents/${id}/void`, SEEN),
    offset: (documentIds: readonly DocumentId[]) =>
      send<Made>('POST', '/documents/offset', { documentIds }),
    documentOf: (id: string) => client.get<DocumentSheet>(`${path}/documents/${id}`),
    ask: (lineIds: readonly LineId[]) =>
      send<LinesDone>('POST', '/questions', {
        target: { lineIds },
        askedOf: 'Ida Fennick',
        words: 'What is this?',
        ...SEEN,
      }),
    reportedElsewhere: (to: string) => send<StepDone>('POST', '/tax-returns/elsewhere', { to }),
    settings: (change: object) => send<StepDone>('PATCH', '', change),
    takeBack: (batchId: BatchId, decided: 'stay' | 'undo') =>
      send<StepDone>('POST', `/batches/${batchId}/take-back`, { decided }),
    undo: (step: number | null = null, withLater = false) =>
      send<UndoDone>('POST', '/steps/undo', { step, withLater }),
    redo: (step: number | null = null, withEarlier = false) =>
      send<UndoDone>('POST', '/steps/redo', { step, withEarlier }),
    steps: async () => (await client.get<Steps>(`${path}/steps`)).items,
    line: (id: string) => client.get<LineSheet>(`${path}/lines/${id}`),
    /** The open lines of the books, whatever their lane. */
    open: async (bankAccountId?: BankAccountId): Promise<DeskLine[]> => {
      const scope = bankAccountId ? { bankAccountId } : {};
      const found: DeskLine[] = [];
      for (const lane of ['ready', 'check', 'blank', 'asked']) {
        const query = new URLSearchParams({ lane, grouping: 'date', ...scope });
        const { stacks } = await client.get<{ stacks: Stack[] }>(`${path}/stacks?${query}`);
        for (const { key, direction } of stacks) {
          const own = new URLSearchParams({ lane, grouping: 'date', key, direction, ...scope });
          const answer = await client.get<{ lines: DeskLine[] }>(`${path}/stack-lines?${own}`);
          found.push(...answer.lines);
        }
      }
      return found;
    },
    decided: async () => (await client.get<DeskLines>(`${path}/decided-lines`)).items,
    /** @param to the day; the newest without one */
    proof: async (bankAccountId?: BankAccountId, to?: string): Promise<Proof> => {
      const query = new URLSearchParams({
        ...(bankAccountId ? { bankAccountId } : {}),
        ...(to ? { to } : {}),
      });
      const { proof } = await client.get<ScopeProof>(`${path}/proof?${query}`);
      if (proof === null) throw new Error('nothing to prove');
      return proof;
    },
    /** The balance of the account with a code. */
    balance: async (code: string): Promise<number> => {
      const id = await accountId(code);
      const { balances } = await client.get<Balances>(`${path}/balances`);
      return balances.find((each) => each.accountId === id)?.amount ?? 0;
    },
    /** All balances other than zero, by account id. */
    balances: async (): Promise<Record<string, number>> => {
      const { balances } = await client.get<Balances>(`${path}/balances`);
      return Object.fromEntries(
        balances.filter(({ amount }) => amount !== 0).map((each) => [each.accountId, each.amount]),
      );
    },
  };
}
