import { createApi } from '@reduxjs/toolkit/query/react';
import type { AuditRecords, ChainChecks, Exported, RecordsWanted } from '@zubrell/contract/audit';
import type { Board } from '@zubrell/contract/board';
import type {
  AccountUse,
  BooksListing,
  BooksSetup,
  ChangeAccount,
  ChangeBooks,
  ChangePayee,
  MergePayee,
  NewAccount,
  NewBankAccount,
  NewBooks,
  NewCostObject,
  NewPayee,
  OpeningBalance,
  PayeeUse,
  Preferences,
} from '@zubrell/contract/books';
import type { Coding } from '@zubrell/contract/coding';
import type { StepDone } from '@zubrell/contract/common';
import type {
  ConfirmBothReal,
  DeskLine,
  DeskLines,
  DismissNudge,
  ExcludeLines,
  FoundLine,
  LaneCounts,
  LineMates,
  LineSheet,
  LinesDone,
  MergeStacks,
  MoveLines,
  OutstandingItem,
  PostLines,
  RecodeLines,
  RedoStep,
  ReopenLines,
  SaveDraft,
  Scope,
  ScopeProof,
  SplitStack,
  Stack,
  StackKey,
  Steps,
  StepsWanted,
  SweepLines,
  SweepSummary,
  Target,
  UndoDone,
  UndoStep,
} from '@zubrell/contract/desk';
import type {
  DocumentSheet,
  Documents,
  NewDocument,
  OffsetDocuments,
} from '@zubrell/contract/documents';
import type {
  AskConsent,
  ChangeFeed,
  ConsentAsked,
  ConsentFinished,
  Feeds,
  FinishConsent,
} from '@zubrell/contract/feeds';
import type { CodingRecord, Evidence, Habits, MarkHabit } from '@zubrell/contract/habits';
import type {
  BalanceByHand,
  Batch,
  BatchLines,
  BatchSheet,
  BatchStarted,
  KeepBatch,
  KeptLayout,
  LineByHand,
  LineFactsList,
  MoveBatch,
  TakeBackBatch,
} from '@zubrell/contract/intake';
import type { BackgroundJob } from '@zubrell/contract/jobs';
import type {
  Balances,
  Entry,
  HandEntry,
  Imported,
  Outstanding,
  Register,
} from '@zubrell/contract/ledger';
import type { PairingView, PairLines } from '@zubrell/contract/pairing';
import type {
  InvitationShown,
  Invite,
  Invited,
  Join,
  LetSeeOtherBooks,
  MakeResetLink,
  People,
  ResetLink,
  SetRole,
} from '@zubrell/contract/people';
import type {
  AnswerQuestion,
  AskLines,
  LineThread,
  Question,
  QuestionsToMe,
  SuspendLines,
} from '@zubrell/contract/questions';
import type {
  ChangeRules,
  DraftedRule,
  DraftRule,
  ImportRules,
  MoveRule,
  RuleFile,
  RuleFileRead,
  RuleLines,
  RuleList,
  RuleSaved,
  RuleSuggestions,
  RulesChanged,
  RulesImported,
  RuleTried,
  RuleVersions,
  SaveRule,
  TryRule,
} from '@zubrell/contract/rules';
import type {
  AddPasskey,
  ChangePassword,
  EraseAccount,
  OpenSession,
  PasskeyOptions,
  Passkeys,
  RecoveryCodes,
  ResetPassword,
  ResetShown,
  SecondFactor,
  SecondFactorBegun,
  SecondFactorCode,
  Session,
  SetUp,
  SignIn,
  SignInByPasskey,
} from '@zubrell/contract/session';

import type { DocumentSide } from '@zubrell/core/ledger/documents';
import { patientQuery } from './patientQuery.ts';

type InBooks<T = unknown> = T & { readonly booksId: string };
type Made = StepDone & { readonly id: string };

/** A query string from values that may be lists or missing. */
function queryOf(values: Readonly<Record<string, string | readonly string[] | undefined>>): string {
  const query = new URLSearchParams();
  for (const [name, value] of Object.entries(values)) {
    for (const each of value === undefined ? [] : [value].flat()) query.append(name, each);
  }
  return query.toString();
}

function change(method: 'POST' | 'PUT' | 'PATCH', url: string, body: object = {}) {
  return { method, url, body, headers: { 'idempotency-key': crypto.randomUUID() } };
}

/** The server's API. Everything about books is read anew after each step, by tag `Books`. */
export const api = createApi({
  baseQuery: patientQuery,
  tagTypes: ['Session', 'Listing', 'Books', 'Batches', 'Feeds', 'Papers', 'People', 'Uses', 'Jobs'],
  keepUnusedDataFor: 30,
  endpoints: (build) => ({
    session: build.query<Session, void>({ query: () => '/session', providesTags: ['Session'] }),
    signIn: build.mutation<Session, SignIn>({
      query: (body) => change('POST', '/session', body),
      invalidatesTags: ['Session', 'Listing'],
    }),
    signInDemo: build.mutation<Session, void>({
      query: () => change('POST', '/session/demo'),
      invalidatesTags: ['Session', 'Listing'],
    }),
    makeFirstUser: build.mutation<Session, SetUp>({
      query: (body) => change('POST', '/session/first-user', body),
      invalidatesTags: ['Session', 'Listing'],
    }),
    signOut: build.mutation<Session, void>({
      query: () => ({ method: 'DELETE', url: '/session' }),
      invalidatesTags: ['Session'],
    }),

    secondFactor: build.query<SecondFactor, void>({
      query: () => '/session/second-factor',
      providesTags: ['Session'],
    }),
    beginSecondFactor: build.mutation<SecondFactorBegun, void>({
      query: () => change('POST', '/session/second-factor'),
    }),
    confirmSecondFactor: build.mutation<RecoveryCodes, SecondFactorCode>({
      query: (body) => change('POST', '/session/second-factor/confirm', body),
      invalidatesTags: ['Session'],
    }),
    makeRecoveryCodes: build.mutation<RecoveryCodes, SecondFactorCode>({
      query: (body) => change('POST', '/session/second-factor/codes', body),
      invalidatesTags: ['Session'],
    }),
    endSecondFactor: build.mutation<unknown, SecondFactorCode>({
      query: (body) => change('POST', '/session/second-factor/end', body),
      invalidatesTags: ['Session'],
    }),
    passkeys: build.query<Passkeys, void>({
      query: () => '/session/passkeys',
      providesTags: ['Session'],
    }),
    beginPasskey: build.mutation<PasskeyOptions, void>({
      query: () => change('POST', '/session/passkeys/begin'),
    }),
    addPasskey: build.mutation<unknown, AddPasskey>({
      query: (body) => change('POST', '/session/passkeys', body),
      invalidatesTags: ['Session'],
    }),
    removePasskey: build.mutation<unknown, { id: string }>({
      query: (body) => change('POST', '/session/passkeys/remove', body),
      invalidatesTags: ['Session'],
    }),
    beginPasskeySignIn: build.mutation<PasskeyOptions, void>({
      query: () => change('POST', '/session/passkey/begin'),
    }),
    signInByPasskey: build.mutation<Session, SignInByPasskey>({
      query: (body) => change('POST', '/session/passkey', body),
      invalidatesTags: ['Session', 'Listing'],
    }),
    eraseAccount: build.mutation<Session, EraseAccount>({
      query: (body) => change('POST', '/session/erase', body),
      invalidatesTags: ['Session', 'Listing'],
    }),
    resetLink: build.query<ResetShown, string>({
      query: (secret) => `/reset-links/${secret}`,
    }),
    resetPassword: build.mutation<unknown, ResetPassword & { secret: string }>({
      query: ({ secret, ...body }) => change('POST', `/reset-links/${secret}`, body),
      invalidatesTags: ['Session'],
    }),
    openSessions: build.query<{ sessions: OpenSession[] }, void>({
      query: () => '/sessions',
      providesTags: ['Session'],
    }),
    endSessions: build.mutation<unknown, { id: string | null }>({
      query: (body) => change('POST', '/sessions/end', body),
      invalidatesTags: ['Session'],
    }),
    changePassword: build.mutation<unknown, ChangePassword>({
      query: (body) => change('POST', '/session/password', body),
      invalidatesTags: ['Session'],
    }),

    listBooks: build.query<{ books: BooksListing[] }, void>({
      query: () => '/books',
      providesTags: ['Listing'],
    }),
    createBooks: build.mutation<{ id: string }, NewBooks>({
      query: (body) => change('POST', '/books', body),
      invalidatesTags: ['Listing'],
    }),
    setup: build.query<BooksSetup, string>({
      query: (booksId) => `/books/${booksId}/setup`,
      providesTags: ['Books'],
    }),
    changeBooks: build.mutation<StepDone, InBooks<ChangeBooks>>({
      query: ({ booksId, ...body }) => change('PATCH', `/books/${booksId}`, body),
      invalidatesTags: ['Books'],
    }),
    createAccount: build.mutation<Made, InBooks<NewAccount>>({
      query: ({ booksId, ...body }) => change('POST', `/books/${booksId}/accounts`, body),
      invalidatesTags: ['Books'],
    }),
    createPayee: build.mutation<Made, InBooks<NewPayee>>({
      query: ({ booksId, ...body }) => change('POST', `/books/${booksId}/payees`, body),
      invalidatesTags: ['Books'],
    }),
    createCostObject: build.mutation<Made, InBooks<NewCostObject>>({
      query: ({ booksId, ...body }) => change('POST', `/books/${booksId}/cost-objects`, body),
      invalidatesTags: ['Books'],
    }),
    payeeUses: build.query<{ uses: PayeeUse[] }, string>({
      query: (booksId) => `/books/${booksId}/payee-uses`,
      providesTags: ['Uses'],
    }),
    accountUses: build.query<{ uses: AccountUse[] }, string>({
      query: (booksId) => `/books/${booksId}/account-uses`,
      providesTags: ['Uses'],
    }),
    savePreferences: build.mutation<Preferences, InBooks<Preferences>>({
      query: ({ booksId, ...body }) => change('PUT', `/books/${booksId}/preferences`, body),
      invalidatesTags: ['Books'],
    }),
    changePayee: build.mutation<StepDone, InBooks<ChangePayee & { payeeId: string }>>({
      query: ({ booksId, payeeId, ...body }) =>
        change('PATCH', `/books/${booksId}/payees/${payeeId}`, body),
      invalidatesTags: ['Books'],
    }),
    mergePayee: build.mutation<StepDone, InBooks<MergePayee & { payeeId: string }>>({
      query: ({ booksId, payeeId, ...body }) =>
        change('POST', `/books/${booksId}/payees/${payeeId}/merge`, body),
      invalidatesTags: ['Books', 'Uses'],
    }),
    changeAccount: build.mutation<StepDone, InBooks<ChangeAccount & { accountId: string }>>({
      query: ({ booksId, accountId, ...body }) =>
        change('PATCH', `/books/${booksId}/accounts/${accountId}`, body),
      invalidatesTags: ['Books'],
    }),
    createBankAccount: build.mutation<Made, InBooks<NewBankAccount>>({
      query: ({ booksId, ...body }) => change('POST', `/books/${booksId}/bank-accounts`, body),
      invalidatesTags: ['Books'],
    }),
    postOpening: build.mutation<StepDone, InBooks<OpeningBalance & { bankAccountId: string }>>({
      query: ({ booksId, bankAccountId, ...body }) =>
        change('POST', `/books/${booksId}/bank-accounts/${bankAccountId}/opening`, body),
      invalidatesTags: ['Books'],
    }),

    lanes: build.query<LaneCounts, InBooks<{ scope: Scope }>>({
      query: ({ booksId, scope }) => `/books/${booksId}/lanes?${queryOf({ ...scope })}`,
      providesTags: ['Books'],
    }),
    stacks: build.query<
      { stacks: Stack[] },
      InBooks<{ scope: Scope; lane: string; grouping: string }>
    >({
      query: ({ booksId, scope, lane, grouping }) =>
        `/books/${booksId}/stacks?${queryOf({ ...scope, lane, grouping })}`,
      providesTags: ['Books'],
    }),
    stackLines: build.query<
      { lines: DeskLine[] },
      InBooks<{ scope: Scope; lane: string; stack: StackKey }>
    >({
      query: ({ booksId, scope, lane, stack: { grouping, key, direction } }) =>
        `/books/${booksId}/stack-lines?${queryOf({ ...scope, lane, grouping, key, direction })}`,
      providesTags: ['Books'],
    }),
    decidedLines: build.infiniteQuery<
      DeskLines,
      InBooks<{ scope: Scope; kind: string | undefined }>,
      string | undefined
    >({
      infiniteQueryOptions: {
        initialPageParam: undefined,
        getNextPageParam: (page) => page.next ?? undefined,
      },
      query: ({ queryArg: { booksId, scope, kind }, pageParam }) =>
        `/books/${booksId}/decided-lines?${queryOf({ ...scope, kind, cursor: pageParam })}`,
      providesTags: ['Books'],
    }),
    line: build.query<LineSheet, InBooks<{ lineId: string }>>({
      query: ({ booksId, lineId }) => `/books/${booksId}/lines/${lineId}`,
      providesTags: ['Books'],
    }),
    proof: build.query<ScopeProof, InBooks<{ scope: Scope }>>({
      query: ({ booksId, scope: { bankAccountId, from, to } }) =>
        `/books/${booksId}/proof?${queryOf({ bankAccountId, from, to })}`,
      providesTags: ['Books'],
    }),
    proofOutstanding: build.query<
      { readonly items: readonly OutstandingItem[] },
      InBooks<{ scope: Scope }>
    >({
      query: ({ booksId, scope: { bankAccountId, from, to } }) =>
        `/books/${booksId}/proof/outstanding?${queryOf({ bankAccountId, from, to })}`,
      providesTags: ['Books'],
    }),
    lineMates: build.query<LineMates, InBooks<{ lineId: string }>>({
      query: ({ booksId, lineId }) => `/books/${booksId}/lines/${lineId}/mates`,
      providesTags: ['Books'],
    }),
    saveDraft: build.mutation<{ version: number }, InBooks<SaveDraft & { lineId: string }>>({
      query: ({ booksId, lineId, ...body }) =>
        change('PUT', `/books/${booksId}/lines/${lineId}/draft`, body),
    }),
    postLines: build.mutation<LinesDone, InBooks<PostLines>>({
      query: ({ booksId, ...body }) => change('POST', `/books/${booksId}/lines/post`, body),
      invalidatesTags: ['Books', 'Uses'],
    }),
    findLines: build.query<{ lines: FoundLine[] }, InBooks<{ search: string }>>({
      query: ({ booksId, search }) => `/books/${booksId}/found-lines?${queryOf({ search })}`,
      providesTags: ['Books'],
    }),
    lastSplit: build.query<{ coding: Coding | null }, InBooks<{ payeeId: string }>>({
      query: ({ booksId, payeeId }) => `/books/${booksId}/payees/${payeeId}/last-split`,
      providesTags: ['Books'],
    }),
    moveLines: build.mutation<LinesDone, InBooks<MoveLines>>({
      query: ({ booksId, ...body }) => change('POST', `/books/${booksId}/lines/move`, body),
      invalidatesTags: ['Books'],
    }),
    mergeStacks: build.mutation<StepDone, InBooks<MergeStacks>>({
      query: ({ booksId, ...body }) => change('POST', `/books/${booksId}/stacks/merge`, body),
      invalidatesTags: ['Books'],
    }),
    splitStack: build.mutation<StepDone, InBooks<SplitStack>>({
      query: ({ booksId, ...body }) => change('POST', `/books/${booksId}/stacks/split`, body),
      invalidatesTags: ['Books'],
    }),
    dismissNudge: build.mutation<StepDone, InBooks<DismissNudge>>({
      query: ({ booksId, ...body }) => change('POST', `/books/${booksId}/nudges/dismiss`, body),
      invalidatesTags: ['Books'],
    }),
    sweepSummary: build.query<SweepSummary, InBooks<{ scope: Scope }>>({
      query: ({ booksId, scope }) => `/books/${booksId}/sweep?${queryOf(scope)}`,
      providesTags: ['Books'],
    }),
    sweepLines: build.mutation<LinesDone, InBooks<SweepLines>>({
      query: ({ booksId, ...body }) => change('POST', `/books/${booksId}/lines/sweep`, body),
      invalidatesTags: ['Books', 'Uses'],
    }),
    pairing: build.query<PairingView, InBooks<{ lineIds: readonly string[]; search: string }>>({
      query: ({ booksId, lineIds, search }) =>
        `/books/${booksId}/pairing?${queryOf({ lineId: lineIds, search })}`,
      providesTags: ['Books'],
    }),
    pairLines: build.mutation<LinesDone, InBooks<PairLines>>({
      query: ({ booksId, ...body }) => change('POST', `/books/${booksId}/lines/pair`, body),
      invalidatesTags: ['Books', 'Uses'],
    }),
    pairProposed: build.mutation<LinesDone, InBooks<{ target: Target; seenStep: number }>>({
      query: ({ booksId, ...body }) =>
        change('POST', `/books/${booksId}/lines/pair-proposed`, body),
      invalidatesTags: ['Books', 'Uses'],
    }),
    documents: build.query<
      Documents,
      InBooks<{ side: DocumentSide; state: string | undefined; search: string }>
    >({
      query: ({ booksId, side, state, search }) =>
        `/books/${booksId}/documents?${queryOf({ side, state, search })}`,
      providesTags: ['Books'],
    }),
    document: build.query<DocumentSheet, InBooks<{ documentId: string }>>({
      query: ({ booksId, documentId }) => `/books/${booksId}/documents/${documentId}`,
      providesTags: ['Books'],
    }),
    enterDocument: build.mutation<Made, InBooks<{ document: NewDocument }>>({
      query: ({ booksId, document }) => change('POST', `/books/${booksId}/documents`, document),
      invalidatesTags: ['Books', 'Uses'],
    }),
    changeDocument: build.mutation<
      Made,
      InBooks<{ documentId: string; document: NewDocument; seenStep: number }>
    >({
      query: ({ booksId, documentId, ...body }) =>
        change('PUT', `/books/${booksId}/documents/${documentId}`, body),
      invalidatesTags: ['Books', 'Uses'],
    }),
    voidDocument: build.mutation<Made, InBooks<{ documentId: string; seenStep: number }>>({
      query: ({ booksId, documentId, ...body }) =>
        change('POST', `/books/${booksId}/documents/${documentId}/void`, body),
      invalidatesTags: ['Books', 'Uses'],
    }),
    offsetDocuments: build.mutation<Made, InBooks<OffsetDocuments>>({
      query: ({ booksId, ...body }) => change('POST', `/books/${booksId}/documents/offset`, body),
      invalidatesTags: ['Books', 'Uses'],
    }),
    outstanding: build.query<Outstanding, string>({
      query: (booksId) => `/books/${booksId}/outstanding`,
      providesTags: ['Books'],
    }),
    enterByHand: build.mutation<Made, InBooks<{ entry: HandEntry }>>({
      query: ({ booksId, ...body }) => change('POST', `/books/${booksId}/entries`, body),
      invalidatesTags: ['Books', 'Uses'],
    }),
    changeEntry: build.mutation<Made, InBooks<{ entryId: string; entry: HandEntry }>>({
      query: ({ booksId, entryId, ...body }) =>
        change('PUT', `/books/${booksId}/entries/${entryId}`, body),
      invalidatesTags: ['Books', 'Uses'],
    }),
    voidEntry: build.mutation<Made, InBooks<{ entryId: string }>>({
      query: ({ booksId, entryId }) => change('POST', `/books/${booksId}/entries/${entryId}/void`),
      invalidatesTags: ['Books', 'Uses'],
    }),
    importRecords: build.mutation<
      Imported,
      InBooks<{ what: 'entries' | 'documents'; text: string; makePayees: boolean }>
    >({
      query: ({ booksId, what, ...body }) =>
        change('POST', `/books/${booksId}/${what}/import`, body),
      invalidatesTags: ['Books', 'Uses'],
    }),
    recodeLines: build.mutation<LinesDone, InBooks<RecodeLines>>({
      query: ({ booksId, ...body }) => change('POST', `/books/${booksId}/lines/recode`, body),
      invalidatesTags: ['Books', 'Uses'],
    }),
    confirmBothReal: build.mutation<LinesDone, InBooks<ConfirmBothReal>>({
      query: ({ booksId, ...body }) => change('POST', `/books/${booksId}/lines/both-real`, body),
      invalidatesTags: ['Books'],
    }),
    reopenLines: build.mutation<LinesDone, InBooks<ReopenLines>>({
      query: ({ booksId, ...body }) => change('POST', `/books/${booksId}/lines/reopen`, body),
      invalidatesTags: ['Books', 'Uses'],
    }),
    excludeLines: build.mutation<LinesDone, InBooks<ExcludeLines>>({
      query: ({ booksId, ...body }) => change('POST', `/books/${booksId}/lines/exclude`, body),
      invalidatesTags: ['Books'],
    }),

    rules: build.query<RuleList, string>({
      query: (booksId) => `/books/${booksId}/rules`,
      providesTags: ['Books'],
    }),
    ruleSuggestions: build.query<RuleSuggestions, string>({
      query: (booksId) => `/books/${booksId}/rules/suggestions`,
      providesTags: ['Books'],
    }),
    ruleVersions: build.query<RuleVersions, InBooks<{ ruleId: string }>>({
      query: ({ booksId, ruleId }) => `/books/${booksId}/rules/${ruleId}/versions`,
      providesTags: ['Books'],
    }),
    ruleLines: build.query<RuleLines, InBooks<{ ruleId: string }>>({
      query: ({ booksId, ruleId }) => `/books/${booksId}/rules/${ruleId}/lines`,
      providesTags: ['Books'],
    }),
    tryRule: build.query<RuleTried, InBooks<TryRule>>({
      query: ({ booksId, ...body }) => ({
        method: 'POST',
        url: `/books/${booksId}/rules/try`,
        body,
      }),
      providesTags: ['Books'],
      keepUnusedDataFor: 5,
    }),
    draftRule: build.query<DraftedRule, InBooks<{ from: DraftRule }>>({
      query: ({ booksId, from }) => ({
        method: 'POST',
        url: `/books/${booksId}/rules/draft`,
        body: from,
      }),
    }),
    createRule: build.mutation<RuleSaved, InBooks<SaveRule>>({
      query: ({ booksId, ...body }) => change('POST', `/books/${booksId}/rules`, body),
      invalidatesTags: ['Books'],
    }),
    changeRule: build.mutation<RuleSaved, InBooks<SaveRule & { ruleId: string }>>({
      query: ({ booksId, ruleId, ...body }) =>
        change('PUT', `/books/${booksId}/rules/${ruleId}`, body),
      invalidatesTags: ['Books'],
    }),
    moveRule: build.mutation<RulesChanged, InBooks<MoveRule & { ruleId: string }>>({
      query: ({ booksId, ruleId, ...body }) =>
        change('POST', `/books/${booksId}/rules/${ruleId}/move`, body),
      invalidatesTags: ['Books'],
    }),
    changeRules: build.mutation<RulesChanged, InBooks<ChangeRules>>({
      query: ({ booksId, ...body }) => change('POST', `/books/${booksId}/rules/change`, body),
      invalidatesTags: ['Books'],
    }),
    reopenRuleLines: build.mutation<LinesDone, InBooks<{ ruleId: string; seenStep: number }>>({
      query: ({ booksId, ruleId, ...body }) =>
        change('POST', `/books/${booksId}/rules/${ruleId}/reopen`, body),
      invalidatesTags: ['Books', 'Uses'],
    }),
    ruleFile: build.query<RuleFile, InBooks<{ ruleIds: readonly string[] }>>({
      query: ({ booksId, ruleIds }) =>
        `/books/${booksId}/rules/file?${queryOf({ ruleId: ruleIds })}`,
      keepUnusedDataFor: 0,
    }),
    readRuleFile: build.query<RuleFileRead, InBooks<{ text: string }>>({
      query: ({ booksId, text }) => ({
        method: 'POST',
        url: `/books/${booksId}/rules/file/read`,
        body: { text },
      }),
      providesTags: ['Books'],
      keepUnusedDataFor: 5,
    }),
    importRules: build.mutation<RulesImported, InBooks<ImportRules>>({
      query: ({ booksId, ...body }) => change('POST', `/books/${booksId}/rules/file`, body),
      invalidatesTags: ['Books'],
    }),

    habits: build.query<Habits, string>({
      query: (booksId) => `/books/${booksId}/habits`,
      providesTags: ['Books'],
    }),
    evidence: build.query<Evidence, InBooks<{ lineId: string }>>({
      query: ({ booksId, lineId }) => `/books/${booksId}/lines/${lineId}/evidence`,
      providesTags: ['Books'],
    }),
    markHabit: build.mutation<StepDone, InBooks<MarkHabit>>({
      query: ({ booksId, ...body }) => change('POST', `/books/${booksId}/habits/marks`, body),
      invalidatesTags: ['Books'],
    }),
    unmarkHabit: build.mutation<StepDone, InBooks<{ markId: string }>>({
      query: ({ booksId, markId }) =>
        change('POST', `/books/${booksId}/habits/marks/${markId}/end`),
      invalidatesTags: ['Books'],
    }),
    codingRecord: build.query<CodingRecord, string>({
      query: (booksId) => `/books/${booksId}/coding-record`,
      providesTags: ['Books'],
    }),

    steps: build.infiniteQuery<Steps, InBooks<StepsWanted>, string | undefined>({
      infiniteQueryOptions: {
        initialPageParam: undefined,
        getNextPageParam: (page) => page.next ?? undefined,
      },
      query: ({ queryArg: { booksId, ...wanted }, pageParam }) =>
        `/books/${booksId}/steps?${queryOf({ ...wanted, cursor: pageParam })}`,
      providesTags: ['Books'],
    }),
    undo: build.mutation<UndoDone, InBooks<UndoStep>>({
      query: ({ booksId, ...body }) => change('POST', `/books/${booksId}/steps/undo`, body),
      invalidatesTags: ['Books', 'Batches', 'Uses'],
    }),
    redo: build.mutation<UndoDone, InBooks<RedoStep>>({
      query: ({ booksId, ...body }) => change('POST', `/books/${booksId}/steps/redo`, body),
      invalidatesTags: ['Books', 'Batches', 'Uses'],
    }),

    balances: build.query<Balances, string>({
      query: (booksId) => `/books/${booksId}/balances`,
      providesTags: ['Books'],
    }),
    register: build.infiniteQuery<Register, InBooks<{ accountId: string }>, string | undefined>({
      infiniteQueryOptions: {
        initialPageParam: undefined,
        getNextPageParam: (page) => page.next ?? undefined,
      },
      query: ({ queryArg: { booksId, accountId }, pageParam }) =>
        `/books/${booksId}/accounts/${accountId}/register?${queryOf({ cursor: pageParam })}`,
      providesTags: ['Books'],
    }),
    entry: build.query<Entry, InBooks<{ entryId: string }>>({
      query: ({ booksId, entryId }) => `/books/${booksId}/entries/${entryId}`,
      providesTags: ['Books'],
    }),

    board: build.query<Board, string>({
      query: (booksId) => `/books/${booksId}/board`,
      providesTags: ['Books', 'Batches'],
    }),

    batches: build.query<{ batches: Batch[] }, string>({
      query: (booksId) => `/books/${booksId}/batches`,
      providesTags: ['Books', 'Batches'],
    }),
    batch: build.query<BatchSheet, InBooks<{ batchId: string }>>({
      query: ({ booksId, batchId }) => `/books/${booksId}/batches/${batchId}`,
      providesTags: ['Books', 'Batches'],
    }),
    batchLines: build.infiniteQuery<BatchLines, InBooks<{ batchId: string }>, string | undefined>({
      infiniteQueryOptions: {
        initialPageParam: undefined,
        getNextPageParam: (page) => page.next ?? undefined,
      },
      query: ({ queryArg: { booksId, batchId }, pageParam }) =>
        `/books/${booksId}/batches/${batchId}/lines?${queryOf({ cursor: pageParam })}`,
      providesTags: ['Books'],
    }),
    takeBackBatch: build.mutation<StepDone, InBooks<TakeBackBatch & { batchId: string }>>({
      query: ({ booksId, batchId, ...body }) =>
        change('POST', `/books/${booksId}/batches/${batchId}/take-back`, body),
      invalidatesTags: ['Books', 'Batches'],
    }),
    keepApart: build.mutation<StepDone, InBooks<{ batchId: string; lineId: string }>>({
      query: ({ booksId, batchId, lineId }) =>
        change('POST', `/books/${booksId}/batches/${batchId}/lines/${lineId}/keep-apart`),
      invalidatesTags: ['Books', 'Batches'],
    }),
    moveBatch: build.mutation<StepDone, InBooks<MoveBatch & { batchId: string }>>({
      query: ({ booksId, batchId, ...body }) =>
        change('POST', `/books/${booksId}/batches/${batchId}/move`, body),
      invalidatesTags: ['Books', 'Batches'],
    }),
    addLine: build.mutation<StepDone, InBooks<LineByHand & { bankAccountId: string }>>({
      query: ({ booksId, bankAccountId, ...body }) =>
        change('POST', `/books/${booksId}/bank-accounts/${bankAccountId}/lines`, body),
      invalidatesTags: ['Books'],
    }),
    addBalance: build.mutation<StepDone, InBooks<BalanceByHand & { bankAccountId: string }>>({
      query: ({ booksId, bankAccountId, ...body }) =>
        change('POST', `/books/${booksId}/bank-accounts/${bankAccountId}/balances`, body),
      invalidatesTags: ['Books', 'Batches'],
    }),
    layouts: build.query<{ layouts: KeptLayout[] }, string>({
      query: (booksId) => `/books/${booksId}/layouts`,
      providesTags: ['Books', 'Batches'],
    }),
    knownLines: build.query<
      LineFactsList,
      InBooks<{ bankAccountId: string; from: string; to: string; closingDate: string }>
    >({
      query: ({ booksId, bankAccountId, ...dates }) =>
        `/books/${booksId}/bank-accounts/${bankAccountId}/line-facts?${queryOf(dates)}`,
      providesTags: ['Books'],
    }),
    upload: build.mutation<{ uploadId: string }, InBooks<{ file: File }>>({
      query: ({ booksId, file }) => ({
        method: 'POST',
        url: `/books/${booksId}/uploads?${queryOf({ fileName: file.name })}`,
        body: file,
        headers: { 'content-type': 'application/octet-stream' },
      }),
    }),
    keepBatch: build.mutation<BatchStarted, InBooks<KeepBatch>>({
      query: ({ booksId, ...body }) => change('POST', `/books/${booksId}/batches`, body),
      invalidatesTags: ['Batches'],
    }),

    questions: build.query<{ questions: Question[] }, string>({
      query: (booksId) => `/books/${booksId}/questions`,
      providesTags: ['Books'],
    }),
    askLines: build.mutation<LinesDone, InBooks<AskLines>>({
      query: ({ booksId, ...body }) => change('POST', `/books/${booksId}/questions`, body),
      invalidatesTags: ['Books'],
    }),
    questionsToMe: build.query<QuestionsToMe, string>({
      query: (booksId) => `/books/${booksId}/questions-to-me`,
      providesTags: ['Books', 'Papers'],
    }),
    suspendLines: build.mutation<LinesDone, InBooks<SuspendLines>>({
      query: ({ booksId, ...body }) => change('POST', `/books/${booksId}/lines/suspend`, body),
      invalidatesTags: ['Books', 'Uses'],
    }),
    answerQuestion: build.mutation<StepDone, InBooks<AnswerQuestion & { questionId: string }>>({
      query: ({ booksId, questionId, ...body }) =>
        change('POST', `/books/${booksId}/questions/${questionId}/answers`, body),
      invalidatesTags: ['Books'],
    }),
    lineThread: build.query<LineThread, InBooks<{ lineId: string }>>({
      query: ({ booksId, lineId }) => `/books/${booksId}/lines/${lineId}/thread`,
      providesTags: ['Books', 'Papers'],
    }),
    addPaper: build.mutation<{ id: string }, InBooks<{ lineId: string; file: File }>>({
      query: ({ booksId, lineId, file }) => ({
        method: 'POST',
        url: `/books/${booksId}/lines/${lineId}/attachments?${queryOf({ fileName: file.name })}`,
        body: file,
        headers: { 'content-type': 'application/octet-stream' },
      }),
      invalidatesTags: ['Papers'],
    }),

    people: build.query<People, string>({
      query: (booksId) => `/books/${booksId}/people`,
      providesTags: ['People'],
    }),
    invite: build.mutation<Invited, InBooks<Invite>>({
      query: ({ booksId, ...body }) => change('POST', `/books/${booksId}/invitations`, body),
      invalidatesTags: ['People'],
    }),
    withdrawInvitation: build.mutation<unknown, InBooks<{ invitationId: string }>>({
      query: ({ booksId, invitationId }) =>
        change('POST', `/books/${booksId}/invitations/${invitationId}/withdraw`),
      invalidatesTags: ['People'],
    }),
    setRole: build.mutation<unknown, InBooks<SetRole & { userId: string }>>({
      query: ({ booksId, userId, ...body }) =>
        change('PATCH', `/books/${booksId}/people/${userId}`, body),
      invalidatesTags: ['People', 'Books'],
    }),
    letSeeOtherBooks: build.mutation<unknown, InBooks<LetSeeOtherBooks & { userId: string }>>({
      query: ({ booksId, userId, ...body }) =>
        change('PATCH', `/books/${booksId}/people/${userId}/other-books`, body),
      invalidatesTags: ['People', 'Books'],
    }),
    invitation: build.query<InvitationShown, string>({
      query: (secret) => `/invitations/${secret}`,
    }),
    join: build.mutation<Session, Join & { secret: string }>({
      query: ({ secret, ...body }) => change('POST', `/invitations/${secret}/join`, body),
      invalidatesTags: ['Session', 'Listing'],
    }),

    makeResetLink: build.mutation<ResetLink, InBooks<MakeResetLink & { userId: string }>>({
      query: ({ booksId, userId, ...body }) =>
        change('POST', `/books/${booksId}/people/${userId}/reset-link`, body),
    }),
    eraseMember: build.mutation<unknown, InBooks<{ userId: string }>>({
      query: ({ booksId, userId }) => change('POST', `/books/${booksId}/people/${userId}/erase`),
      invalidatesTags: ['People', 'Books'],
    }),

    records: build.infiniteQuery<AuditRecords, InBooks<RecordsWanted>, string | undefined>({
      infiniteQueryOptions: {
        initialPageParam: undefined,
        getNextPageParam: (page) => page.next ?? undefined,
      },
      query: ({ queryArg: { booksId, ...wanted }, pageParam }) =>
        `/books/${booksId}/records?${queryOf({ ...wanted, cursor: pageParam })}`,
      providesTags: ['Books', 'People'],
      keepUnusedDataFor: 0,
    }),
    recordPage: build.query<AuditRecords, InBooks<RecordsWanted & { cursor?: string }>>({
      query: ({ booksId, ...wanted }) => `/books/${booksId}/records?${queryOf(wanted)}`,
      keepUnusedDataFor: 0,
    }),
    checkChains: build.query<ChainChecks, string>({
      query: (booksId) => `/books/${booksId}/records/check`,
      keepUnusedDataFor: 0,
    }),
    recordExport: build.mutation<unknown, InBooks<Exported>>({
      query: ({ booksId, ...body }) => change('POST', `/books/${booksId}/exports`, body),
    }),

    jobs: build.query<{ jobs: BackgroundJob[] }, string>({
      query: (booksId) => `/books/${booksId}/jobs`,
      providesTags: ['Books', 'Jobs'],
    }),
    tryJobAgain: build.mutation<unknown, InBooks<{ jobId: string }>>({
      query: ({ booksId, jobId }) => change('POST', `/books/${booksId}/jobs/${jobId}/again`),
      invalidatesTags: ['Jobs'],
    }),
    giveJobUp: build.mutation<unknown, InBooks<{ jobId: string }>>({
      query: ({ booksId, jobId }) => change('POST', `/books/${booksId}/jobs/${jobId}/give-up`),
      invalidatesTags: ['Jobs', 'Batches', 'Feeds'],
    }),

    feeds: build.query<Feeds, string>({
      query: (booksId) => `/books/${booksId}/feeds`,
      providesTags: ['Books', 'Feeds'],
    }),
    askConsent: build.mutation<ConsentAsked, InBooks<AskConsent>>({
      query: ({ booksId, ...body }) => change('POST', `/books/${booksId}/consents`, body),
    }),
    finishConsent: build.mutation<ConsentFinished, InBooks<FinishConsent>>({
      query: ({ booksId, ...body }) => change('POST', `/books/${booksId}/consents/finish`, body),
      invalidatesTags: ['Feeds'],
    }),
    changeFeed: build.mutation<unknown, InBooks<ChangeFeed & { feedId: string }>>({
      query: ({ booksId, feedId, ...body }) =>
        change('PATCH', `/books/${booksId}/feeds/${feedId}`, body),
      invalidatesTags: ['Feeds'],
    }),
    fetchFeed: build.mutation<unknown, InBooks<{ feedId: string }>>({
      query: ({ booksId, feedId }) => change('POST', `/books/${booksId}/feeds/${feedId}/fetch`),
      invalidatesTags: ['Feeds'],
    }),
    endFeed: build.mutation<unknown, InBooks<{ feedId: string }>>({
      query: ({ booksId, feedId }) => change('POST', `/books/${booksId}/feeds/${feedId}/end`),
      invalidatesTags: ['Feeds'],
    }),
  }),
});
