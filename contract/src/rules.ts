import { decisionKinds } from '@zubrell/core/ledger/decisions';
import { decisionSources } from '@zubrell/core/propose/proposal';
import { missedKinds } from '@zubrell/core/propose/rule/nearMiss';
import type {
  Condition as CoreCondition,
  RuleBody as CoreRuleBody,
} from '@zubrell/core/propose/rule/rule';
import { ruleExcludeReasons, textFields, textTests } from '@zubrell/core/propose/rule/rule';
import { z } from 'zod';
import { costObjects, SplitPart } from './coding.ts';
import {
  AccountId,
  BankAccountId,
  CalendarDate,
  GivenAmount,
  GivenDate,
  Id,
  LineId,
  Minor,
  PayeeId,
  RuleId,
  Seen,
  StepDone,
  TaxCodeId,
  text,
  typedText,
} from './common.ts';

const Condition = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('text'),
    field: z.enum(textFields),
    test: z.enum(textTests),
    text: text(200),
    isExact: z.boolean(),
  }),
  z.object({ kind: z.literal('amount'), from: GivenAmount.nullable(), to: GivenAmount.nullable() }),
  z.object({
    kind: z.literal('date'),
    from: GivenDate.nullable(),
    to: GivenDate.nullable(),
  }),
  z.object({ kind: z.literal('day'), from: z.int().min(1).max(31), to: z.int().min(1).max(31) }),
]) satisfies z.ZodType<CoreCondition>;

const match = z.enum(['all', 'any']);
const conditions = z
  .array(
    z.union([
      Condition,
      z.object({
        kind: z.literal('group'),
        match,
        conditions: z.array(Condition).max(50).readonly(),
      }),
    ]),
  )
  .max(50)
  .readonly();
const direction = z.enum(['in', 'out', 'either']);

export const RuleTakes = z.object({
  direction,
  bankAccountIds: z.array(BankAccountId).max(500).readonly().nullable(),
  match,
  conditions,
});
export type RuleTakes = z.infer<typeof RuleTakes>;

const Ask = z.object({
  kind: z.literal('ask'),
  askedOf: text(100),
  words: text(1_000),
});
const Exclude = z.object({ kind: z.literal('exclude'), reason: z.enum(ruleExcludeReasons) });
const note = text(1_000).nullable();
const isRecharged = z.boolean().optional();

export const RuleResult = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('code'),
    payee: z.discriminatedUnion('kind', [
      z.object({ kind: z.literal('fixed'), payeeId: PayeeId }),
      z.object({ kind: z.literal('bank') }),
      z.object({ kind: z.literal('open') }),
    ]),
    parts: z
      .array(
        z.object({
          accountId: AccountId,
          taxCodeId: TaxCodeId.nullable(),
          share: SplitPart,
          ...costObjects,
        }),
      )
      .max(100)
      .readonly(),
    note,
  }),
  z.object({ kind: z.literal('transfer'), bankAccountId: BankAccountId }),
  Exclude,
  Ask,
]);
export type RuleResult = z.infer<typeof RuleResult>;

const after = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('hold') }),
  z.object({ kind: z.literal('post'), largest: GivenAmount.min(1).nullable() }),
]);

export const RuleBody = z.object({
  takes: RuleTakes,
  result: RuleResult,
  after,
}) satisfies z.ZodType<CoreRuleBody>;
export type RuleBody = z.infer<typeof RuleBody>;

const name = typedText(100);

/** A rule as it is saved. */
export const SaveRule = z.object({
  name,
  isOn: z.boolean(),
  body: RuleBody,
  /** The rule that it goes before; null for the end. Only where it is new. */
  beforeId: Id.nullable().optional(),
  /** The newest step the sender has seen. */
  seenStep: Seen,
});
export type SaveRule = z.infer<typeof SaveRule>;

/** What came of saving rules: a step, and how many open lines they take now. */
export const RuleSaved = StepDone.extend({ id: Id, openTaken: z.int() });
export type RuleSaved = z.infer<typeof RuleSaved>;

/** What is wrong with a rule, or worth a look. */
export const RuleHealth = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('neverATurn'), by: Id, lines: z.int() }),
  z.object({ kind: z.literal('overruled'), kept: z.int(), of: z.int() }),
  z.object({ kind: z.literal('gone'), what: z.string() }),
  z.object({ kind: z.literal('takesNothing'), nearMisses: z.int() }),
  z.object({ kind: z.literal('stopped') }),
  z.object({ kind: z.literal('overlaps'), with: Id, lines: z.int() }),
]);
export type RuleHealth = z.infer<typeof RuleHealth>;

/** A rule with its record. */
export const ListedRule = z.object({
  id: Id,
  /** Its place in the order, from 1. */
  number: z.int(),
  name: z.string(),
  isOn: z.boolean(),
  body: RuleBody,
  lastStep: z.int(),
  /** Lines that were decided as it proposed or otherwise. */
  used: z.int(),
  /** Open lines that it proposes for. */
  open: z.int(),
  /** Of its proposals that somebody looked at, those that were kept. */
  kept: z.int(),
  looked: z.int(),
  /** Posted at once by it, unseen. */
  postedAtOnce: z.int(),
  /** How many in a row were kept, up to the newest. */
  keptInRow: z.int(),
  lastUsed: CalendarDate.nullable(),
  /** What its own record says, and what it names; see {@link RuleTurns} for the rest. */
  health: z.array(RuleHealth),
});
export type ListedRule = z.infer<typeof ListedRule>;
export const RuleList = z.object({
  seenStep: Seen,
  rules: z.array(ListedRule),
});
export type RuleList = z.infer<typeof RuleList>;

/** What trying all rules on all lines says of them, which in large books takes a while; and how many habits there are. */
export const RuleTurns = z.object({
  found: z.array(z.object({ ruleId: Id, health: RuleHealth })),
  habitCount: z.int(),
});
export type RuleTurns = z.infer<typeof RuleTurns>;

export const MoveRule = z.object({ beforeId: Id.nullable() });
export type MoveRule = z.infer<typeof MoveRule>;

/** What is to be done with several rules. Copies come in off, after those they were made of. */
export const ChangeRules = z.object({
  ruleIds: z.array(RuleId).min(1).max(5_000),
  to: z.enum(['on', 'off', 'deleted', 'copied']),
  /** For copies: the bank accounts they take; without it the same. */
  bankAccountIds: z.array(BankAccountId).min(1).optional(),
});
export type ChangeRules = z.infer<typeof ChangeRules>;

export const RulesChanged = StepDone.extend({ openTaken: z.int() });
export type RulesChanged = z.infer<typeof RulesChanged>;

/** A rule that is being written, to be tried on every line. */
export const TryRule = z.object({
  /** The rule that is being changed; null for a new one, which goes to the end. */
  ruleId: RuleId.nullable(),
  body: RuleBody,
});
export type TryRule = z.infer<typeof TryRule>;

/** A line that a tried rule takes, or nearly. */
export const TriedLine = z.object({
  id: Id,
  bankAccountId: BankAccountId,
  date: CalendarDate,
  amount: Minor,
  description: z.string(),
  reference: z.string().nullable(),
  payee: z.string().nullable(),
  stem: z.string(),
  /** What was made of it by now. */
  state: z.enum(['open', ...decisionKinds]),
  accountIds: z.array(AccountId),
  taxCodeId: TaxCodeId.nullable(),
  /** Whether it was decided as the rule would have it; null while it is open. */
  isSame: z.boolean().nullable(),
  /** What proposed it, and whether that was changed by hand. */
  source: z.enum(decisionSources),
  sourceRuleId: RuleId.nullable(),
  isChanged: z.boolean(),
  /** The active rule that takes it first. */
  earlierRuleId: RuleId.nullable(),
  missed: z.enum(missedKinds).nullable(),
});
export type TriedLine = z.infer<typeof TriedLine>;

/** What a rule would do, over the lines of the books. */
export const RuleTried = z.object({
  lineCount: z.int(),
  /** Whether those are all: of very many lines a rule is tried on the newest and on what is open. */
  isAll: z.boolean(),
  takes: z.int(),
  same: z.int(),
  otherwise: z.int(),
  open: z.int(),
  /** Of all it takes, those that an earlier rule takes. */
  earlier: z.int(),
  /** How many were coded otherwise by hand, where those are more than were coded as it would have them; else 0. */
  against: z.int(),
  /** Lines that it takes, the newest first, up to a few hundred. */
  lines: z.array(TriedLine),
  nearMisses: z.array(z.object({ missed: z.enum(missedKinds), count: z.int() })),
  missedLines: z.array(TriedLine),
  warnings: z.array(
    z.object({ word: z.string(), kind: z.enum(['short', 'common']), lines: z.int() }),
  ),
  /** Why it can't be saved yet. */
  problem: z.string().nullable(),
});
export type RuleTried = z.infer<typeof RuleTried>;

/** What a rule is to be made from. */
export const DraftRule = z.union([
  z.object({ lineIds: z.array(LineId).min(1).max(2_000) }),
  z.object({ stem: text(500), direction: z.enum(['in', 'out']) }),
  z.object({ habit: text(100), accountId: AccountId }),
]);
export type DraftRule = z.infer<typeof DraftRule>;

export const DraftedRule = z.object({ name, body: RuleBody });
export type DraftedRule = z.infer<typeof DraftedRule>;

/** A recurring stack without a rule. */
export const RuleSuggestion = DraftedRule.extend({ times: z.int(), lastDate: CalendarDate });
export type RuleSuggestion = z.infer<typeof RuleSuggestion>;
export const RuleSuggestions = z.object({ suggestions: z.array(RuleSuggestion) });
export type RuleSuggestions = z.infer<typeof RuleSuggestions>;

export const RuleVersions = z.object({
  versions: z.array(
    z.object({
      step: z.int(),
      at: z.string(),
      who: z.string(),
      words: z.string(),
      /** As it stood after the step; null where it was deleted. */
      rule: z.object({ name: z.string(), isOn: z.boolean(), body: RuleBody }).nullable(),
    }),
  ),
});
export type RuleVersions = z.infer<typeof RuleVersions>;

/** The lines that a rule coded or proposes for. */
export const RuleLines = z.object({ lines: z.array(TriedLine), count: z.int() });
export type RuleLines = z.infer<typeof RuleLines>;

/** Lines that still stand as a rule coded them, and that it would code otherwise by now. */
export const MiscodedLines = z.object({
  count: z.int(),
  /** The newest of them; those that the rule doesn’t take any more are to be opened again. */
  lines: z.array(TriedLine.extend({ fix: z.enum(['recode', 'reopen']) })),
});
export type MiscodedLines = z.infer<typeof MiscodedLines>;

/** What a rule coded wrong is put right for these lines. */
export const CorrectRule = z.object({
  lineIds: z.array(LineId).min(1).max(20_000),
  seenStep: Seen,
});
export type CorrectRule = z.infer<typeof CorrectRule>;

const FilePart = z.object({
  account: text(300).min(1),
  taxCode: text(300).nullable(),
  share: SplitPart,
  costCentre: text(300).optional(),
  job: text(300).optional(),
  isRecharged,
});

/** A rule as it stands in a file, with names in the place of ids. */
export const FileRule = z.object({
  name: name.min(1),
  takes: z.object({
    direction,
    bankAccounts: z.array(text(300)).readonly().nullable(),
    match,
    conditions,
  }),
  result: z.discriminatedUnion('kind', [
    z.object({
      kind: z.literal('code'),
      payee: z.discriminatedUnion('kind', [
        z.object({ kind: z.literal('fixed'), name: text(300).min(1) }),
        z.object({ kind: z.literal('bank') }),
        z.object({ kind: z.literal('open') }),
      ]),
      parts: z.array(FilePart).max(100).readonly(),
      note,
    }),
    z.object({ kind: z.literal('transfer'), bankAccount: text(300).min(1) }),
    Exclude,
    Ask,
  ]),
  after,
});

/** A rule file. Its JSON schema stands in docs/rule-file.schema.json. */
export const RuleFile = z.object({
  format: z.literal('zubrell-rules'),
  version: z.literal(1),
  /** Amounts are in its minor units. */
  currency: z.string().regex(/^[A-Z]{3}$/),
  rules: z.array(FileRule).max(5_000).readonly(),
});
export type RuleFile = z.infer<typeof RuleFile>;

/** The text of a rule file. */
export const RuleFileText = z.object({ text: text(20_000_000) });

const namedKind = z.enum(['account', 'bankAccount', 'payee', 'taxCode', 'costCentre', 'job']);

/** What a rule file holds, before it is imported. */
export const RuleFileRead = z.object({
  count: z.int(),
  names: z.array(
    z.object({
      kind: namedKind,
      name: z.string(),
      /** What it is in these books, by code, number or name; null where that must be chosen. */
      id: Id.nullable(),
    }),
  ),
  /** Names of its rules that these books have already. */
  duplicates: z.array(z.string()),
});
export type RuleFileRead = z.infer<typeof RuleFileRead>;

export const ImportRules = RuleFileText.extend({
  choices: z.array(z.object({ kind: namedKind, name: text(300), id: Id.nullable() })),
  withDuplicates: z.boolean(),
});
export type ImportRules = z.infer<typeof ImportRules>;

export const RulesImported = StepDone.extend({
  imported: z.int(),
  /** Rules that name something nothing was chosen for, and duplicates. */
  leftOut: z.array(z.object({ name: z.string(), message: z.string() })),
});
export type RulesImported = z.infer<typeof RulesImported>;
