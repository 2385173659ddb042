import { heldReasons } from '@zubrell/core/intake/held';
import { decisionKinds, openLanes, postedWays } from '@zubrell/core/ledger/decisions';
import { missableFields } from '@zubrell/core/ledger/demands';
import { givenExcludeReasons, keptOutReasons } from '@zubrell/core/ledger/excludeReasons';
import { amountReasons, candidateKinds, pairReasons, setReasons } from '@zubrell/core/pair/pairing';
import { breakReasons } from '@zubrell/core/proof/explainBreak';
import { type ProofCause as CoreProofCause, causeKinds } from '@zubrell/core/proof/prove';
import { separatorKinds } from '@zubrell/core/propose/habit/separators';
import { nudgeKinds } from '@zubrell/core/propose/nudge/nudges';
import {
  type Doubt as CoreDoubt,
  type Ground as CoreGround,
  decisionSources,
  proposalSources,
} from '@zubrell/core/propose/proposal';
import { ruleExcludeReasons } from '@zubrell/core/propose/rule/rule';
import { askedStates } from '@zubrell/core/questions/states';
import { stepGroups } from '@zubrell/core/steps/stepKinds';
import { z } from 'zod';
import { Coding, DraftCoding } from './coding.ts';
import {
  AccountId,
  BankAccountId,
  BatchId,
  CalendarDate,
  EntryId,
  GivenDate,
  Id,
  LineId,
  Minor,
  neededText,
  PayeeId,
  page,
  RuleId,
  Seen,
  StepDone,
  TaxCodeId,
  text,
  UserId,
} from './common.ts';
import { PairDifference, PairTarget } from './pairing.ts';
import { Said } from './said.ts';

const ids = z
  .union([Id, z.array(Id)])
  .transform((value) => (Array.isArray(value) ? value : [value]));

const stems = z
  .union([text(500), z.array(text(500)).min(1).max(2_000)])
  .transform((value) => [value].flat());

/** Which lines the Desk looks at. Travels in the query of an address. */
export const Scope = z.object({
  bankAccountId: ids.optional(),
  from: GivenDate.optional(),
  to: GivenDate.optional(),
  /** Text, payee, or an amount such as 48.50, >500 or 40..60. */
  search: text(200).optional(),
  /** Only money in, or only money out. */
  direction: z.enum(['in', 'out']).optional(),
  /** Only lines that no attachment is kept with. */
  attachment: z.literal('none').optional(),
});
export type Scope = z.infer<typeof Scope>;

export const OpenLane = z.enum(openLanes);
export const ExcludeReason = z.enum(givenExcludeReasons);
export type ExcludeReason = z.infer<typeof ExcludeReason>;
/** Why a line is kept out of the books, by exclusion or by being moved. */
export const KeptOutReason = z.enum(keptOutReasons);
export type KeptOutReason = z.infer<typeof KeptOutReason>;

export const DecisionKind = z.enum(decisionKinds);
export type DecisionKind = z.infer<typeof DecisionKind>;

/** Decided lines of a scope that were decided so; what is left out wants all. */
export const Decided = Scope.extend({
  kind: DecisionKind.optional(),
  /** One of the accounts they were coded to. */
  accountId: AccountId.optional(),
  payeeId: PayeeId.optional(),
  taxCodeId: TaxCodeId.optional(),
  /** What had proposed it, or nobody. */
  by: z.enum(decisionSources).optional(),
  ruleId: RuleId.optional(),
  /** Of look-alikes that have one of these in common. */
  stem: stems.optional(),
  way: z.enum(postedWays).optional(),
  /** Who decided it. */
  userId: UserId.optional(),
  /** Decided by this step, and not again since. */
  step: z.coerce.number<number>().int().min(1).max(1_000_000_000).optional(),
});
export type Decided = z.infer<typeof Decided>;
/** By what decided lines are sorted; the newest, largest or first in the alphabet come first, or last. */
export const LineOrder = z.enum(['date', 'amount', 'name']);
export type LineOrder = z.infer<typeof LineOrder>;
export const Grouping = z.enum(['lookAlikes', 'payee', 'date']);
export type Grouping = z.infer<typeof Grouping>;

/** How many lines stand where. */
export const LaneCounts = z.object({
  ready: z.int(),
  check: z.int(),
  blank: z.int(),
  asked: z.int(),
  posted: z.int(),
  paired: z.int(),
  excluded: z.int(),
  deleted: z.int(),
  /** A search finds more decided lines than were counted: these and others. */
  isDecidedMore: z.boolean(),
  /** Open lines that the scope leaves out. */
  openOutside: z.int(),
});
export type LaneCounts = z.infer<typeof LaneCounts>;

const Ground = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('lookAlikes'),
    times: z.int(),
    of: z.int(),
    accountId: AccountId,
  }),
  z.object({
    kind: z.literal('separator'),
    by: z.enum(separatorKinds),
    word: z.string().exactOptional(),
    /** An amount in minor units, or a day of the month. */
    limit: z.int().exactOptional(),
  }),
  z.object({ kind: z.literal('changed'), times: z.int(), accountId: AccountId }),
  z.object({ kind: z.literal('prepared') }),
  z.object({
    kind: z.literal('fits'),
    by: z.array(z.enum(pairReasons)),
    because: z.enum(setReasons).nullable(),
  }),
  z.object({
    kind: z.literal('otherHalf'),
    lineId: LineId,
    bankAccountId: BankAccountId,
    date: CalendarDate,
  }),
  z.object({ kind: z.literal('namesAccount'), bankAccountId: BankAccountId }),
  z.object({ kind: z.literal('paysCard'), bankAccountId: BankAccountId, to: CalendarDate }),
  z.object({ kind: z.literal('word'), word: z.string() }),
  z.object({ kind: z.literal('category'), code: z.string(), trade: z.string() }),
  z.object({
    kind: z.literal('rule'),
    ruleId: RuleId,
    name: z.string(),
    leaves: z.array(z.enum(['payee', 'tax'])),
  }),
  z.object({ kind: z.literal('habitSays'), accountId: AccountId, times: z.int(), of: z.int() }),
  z.object({ kind: z.literal('otherBooks'), accountId: AccountId, books: z.int(), of: z.int() }),
]);

/** More lines than one fit what stands in the books. */
const EqualLines = z.object({
  kind: z.literal('equalLines'),
  /** How many beside the line itself. */
  count: z.int(),
  targets: z.array(PairTarget.pick({ kind: true, number: true })),
});

const Doubt = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('seenSeldom'), times: z.int() }),
  z.object({
    kind: z.literal('severalAccounts'),
    accounts: z.array(z.object({ accountId: AccountId, times: z.int() })),
  }),
  z.object({ kind: z.literal('severalTaxCodes') }),
  z.object({ kind: z.literal('unusualAmount') }),
  z.object({ kind: z.literal('lastElsewhere'), accountId: AccountId }),
  z.object({ kind: z.literal('newWording') }),
  z.object({ kind: z.literal('newNumber'), number: z.string() }),
  z.object({ kind: z.literal('unsure') }),
  z.object({ kind: z.literal('unknownName'), what: z.enum(['payee', 'tax']), name: z.string() }),
  z.object({ kind: z.literal('accountOff'), accountId: AccountId }),
  z.object({ kind: z.literal('incomplete'), missing: z.array(z.enum(missableFields)) }),
  z.object({ kind: z.literal('ruleAgainstHand'), times: z.int(), needed: z.int() }),
  z.object({ kind: z.literal('ruleOverruled'), kept: z.int(), of: z.int() }),
  z.object({ kind: z.literal('ruleStopped'), why: z.string() }),
  z.object({ kind: z.literal('toAsk'), askedOf: z.string() }),
  z.object({ kind: z.literal('toExclude'), reason: z.enum(ruleExcludeReasons) }),
  z.object({ kind: z.literal('onlyUsual') }),
  z.object({ kind: z.literal('onlyOtherBooks') }),
  z.object({ kind: z.literal('anotherFits'), count: z.int() }),
  z.object({
    kind: z.literal('nearlyInBooks'),
    targets: z.array(PairTarget.pick({ kind: true, number: true })),
    by: Minor,
    because: z.enum(amountReasons).nullable(),
  }),
  EqualLines,
  z.object({ kind: z.literal('pairDiffers'), differences: z.array(PairDifference) }),
  z.object({ kind: z.literal('otherSideMissing'), bankAccountId: BankAccountId }),
  z.object({ kind: z.literal('unsurePair') }),
  z.object({ kind: z.literal('codedOtherwise'), by: z.enum(['rule', 'habit']) }),
  z.object({
    kind: z.literal('nudge'),
    nudge: z.enum(nudgeKinds),
    accountId: AccountId.nullable(),
  }),
]);

/** Kinds of grounds and doubts that the core has and no schema here. */
type Lacking =
  | Exclude<CoreGround['kind'], z.infer<typeof Ground>['kind']>
  | Exclude<CoreDoubt['kind'], z.infer<typeof Doubt>['kind']>;
/** Does not compile where there is such a kind: an answer that has one would be refused. */
type Whole<Said, _Lacking extends never> = Said;

const grounded = {
  source: z.enum(proposalSources),
  grounds: z.array(Ground),
  doubts: z.array(Doubt),
};
export const Proposal = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('post'), ...grounded, coding: Coding }),
  z.object({ kind: z.literal('ask'), ...grounded, askedOf: z.string(), words: z.string() }),
  z.object({ kind: z.literal('exclude'), ...grounded, reason: z.enum(ruleExcludeReasons) }),
  z.object({ kind: z.literal('pair'), ...grounded, targets: z.array(PairTarget) }),
]);
export type Proposal = Whole<z.infer<typeof Proposal>, Lacking>;

/** Names a stack: what its lines have in common under the chosen grouping. */
export const StackKey = z.object({
  grouping: Grouping,
  key: text(700),
  direction: z.enum(['in', 'out']),
});
export type StackKey = z.infer<typeof StackKey>;

/** Open lines that belong together, in one lane. */
export const Stack = StackKey.extend({
  title: z.string(),
  count: z.int(),
  total: Minor,
  /** In which all its lines are; null where they are in several. */
  currency: z.string().nullable(),
  firstDate: CalendarDate,
  lastDate: CalendarDate,
  smallest: Minor,
  largest: Minor,
  /**
   * What is proposed for all its lines alike, but for those that are in the books already; null where nothing is
   * or they differ.
   */
  proposal: Proposal.nullable(),
  /** Drafts alike on all its lines, or null. */
  draft: DraftCoding.nullable(),
  /** How many of its lines have a draft. */
  draftCount: z.int(),
  /** How many of its lines may be second copies. */
  twiceCount: z.int(),
  /** How many lines are held for a decision, and why the first of them is. */
  heldCount: z.int(),
  held: z.enum(heldReasons).nullable(),
  /** How many of its lines have an answer that nobody has acted on. */
  answeredCount: z.int(),
  /** One of these answers; null where there is none. */
  answer: z.string().nullable(),
  /** How many accounts its lines are proposed to. */
  accountCount: z.int(),
  /** How many of its lines are proposed to be paired with what is in the books already. */
  pairCount: z.int(),
  /** That more of its lines fit what stands in the books than can be it; null where that isn't so. */
  equalLines: EqualLines.nullable(),
  /** How many of its pairs that is so of. */
  equalCount: z.int(),
});
export type Stack = z.infer<typeof Stack>;

export const DeskLine = z.object({
  id: Id,
  bankAccountId: BankAccountId,
  date: CalendarDate,
  amount: Minor,
  description: z.string(),
  stem: z.string(),
  proposal: Proposal.nullable(),
  /** How likely the proposed account is right, where that is known. */
  sureness: z.number().nullable(),
  draft: DraftCoding.nullable(),
  draftVersion: z.int(),
  /** Whether a question about it is open, or answered and not settled. */
  asked: z.enum(askedStates).nullable(),
  /** The newest answer that nobody has acted on. */
  answer: z.string().nullable(),
  /** Why the line is held for a decision, whatever is proposed for it. */
  held: z.enum(heldReasons).nullable(),
  /** The line it may be a second copy of. */
  twiceOf: z
    .object({
      id: Id,
      date: CalendarDate,
      amount: Minor,
      description: z.string(),
      reference: z.string().nullable(),
    })
    .nullable(),
  decision: z
    .object({
      id: Id,
      kind: DecisionKind,
      reason: KeptOutReason.nullable(),
      coding: Coding.nullable(),
      step: z.int(),
      /** The rule that proposed it, which may be deleted by now. */
      rule: z.object({ id: Id, name: z.string(), isHere: z.boolean() }).nullable(),
      /** Nothing is learned from it. */
      isOnce: z.boolean(),
      /** What it is paired with. */
      paired: z.array(PairTarget),
      /** With how many other lines. */
      mates: z.int(),
    })
    .nullable(),
});
export type DeskLine = z.infer<typeof DeskLine>;

export const DeskLines = page(DeskLine).extend({ seenStep: Seen });
export type DeskLines = z.infer<typeof DeskLines>;

/** A line found by a search over all of them, whatever became of it. */
export const FoundLine = z.object({
  id: Id,
  date: CalendarDate,
  amount: Minor,
  bankAccountId: BankAccountId,
  description: z.string(),
  state: z.enum([...openLanes, ...decisionKinds]),
});
export type FoundLine = z.infer<typeof FoundLine>;

export const HistoryItem = z.object({
  no: z.int(),
  at: z.string(),
  who: z.string(),
  words: z.string(),
  /** The same with its values apart; null where the step is older than that. */
  said: Said.nullable(),
});

/** The rule that proposed something, as it was then: its how many-th version. */
const RuleThen = z.object({ name: z.string(), version: z.int() });
export type RuleThen = z.infer<typeof RuleThen>;

/** A step that touched a line, and what it decided about it. */
export const LineHistoryItem = HistoryItem.extend({
  decision: z
    .object({
      /** What had proposed it. */
      by: z.enum(decisionSources),
      rule: RuleThen.nullable(),
      /** Whether it was left as proposed. */
      isKept: z.boolean(),
    })
    .nullable(),
});
export type LineHistoryItem = z.infer<typeof LineHistoryItem>;

/** What was first proposed for a line. */
export const FirstProposal = z.object({
  at: z.string(),
  proposal: Proposal,
  sureness: z.number().nullable(),
  rule: RuleThen.nullable(),
});
export type FirstProposal = z.infer<typeof FirstProposal>;

/** All there is to know of one line. */
export const LineSheet = DeskLine.extend({
  valueDate: CalendarDate.nullable(),
  reference: z.string().nullable(),
  payee: z.string().nullable(),
  type: z.string().nullable(),
  bankId: z.string().nullable(),
  chequeNumber: z.string().nullable(),
  counterparty: z.string().nullable(),
  /** Merchant category code. */
  category: z.string().nullable(),
  /** Whose card it was paid with, as the file names them. */
  cardholder: z.string().nullable(),
  /** Amount and currency before the bank converted them. */
  original: z.string().nullable(),
  balance: Minor.nullable(),
  entryId: EntryId.nullable(),
  sightings: z.array(
    z.object({ batchId: BatchId, fileName: z.string(), place: z.int(), at: z.string() }),
  ),
  history: z.array(LineHistoryItem),
  first: FirstProposal.nullable(),
});
export type LineSheet = z.infer<typeof LineSheet>;

export const SaveDraft = z.object({
  /** Null clears the draft. */
  coding: DraftCoding.nullable(),
  /** The version the typist saw; 0 where there was none. */
  version: z.int().min(0).max(1_000_000_000),
});
export type SaveDraft = z.infer<typeof SaveDraft>;
export const DraftSaved = z.object({ version: z.int() });

/** What was typed on the head of a stack is kept with each of its lines, but for those that somebody typed into. */
export const SaveStackDraft = z.object({
  stack: StackKey,
  lane: OpenLane,
  scope: Scope,
  coding: DraftCoding.nullable(),
  /** What stood there before: lines that have just that follow. */
  before: DraftCoding.nullable(),
});
export type SaveStackDraft = z.infer<typeof SaveStackDraft>;
/** How many lines have it now. */
export const StackDraftSaved = z.object({ count: z.int() });

/** The lines a command is about: named, or all of a stack or of a lane in a scope. */
export const Target = z.union([
  z.object({ lineIds: z.array(LineId).min(1).max(20_000) }),
  z.object({ stack: StackKey.optional(), lane: OpenLane, scope: Scope }),
]);
export type Target = z.infer<typeof Target>;

export const PostLines = z.object({
  target: Target,
  coding: Coding,
  /** Nothing is to be learned from it. */
  isOnce: z.boolean().optional(),
  /** The sender has seen what fits in the books: it is a new one all the same. */
  isNew: z.boolean().optional(),
  /** The newest step the sender has seen; lines changed since are left out and named. */
  seenStep: Seen,
});
export type PostLines = z.infer<typeof PostLines>;

export const ExcludeLines = z.object({
  target: Target,
  reason: ExcludeReason,
  /** Deleted lines leave a marker, so that they don't come in again, and can be restored. */
  as: z.enum(['excluded', 'deleted']),
  /** Of second copies: the line that each is a copy of. One that is left out is found, if only one can be it. */
  originals: z.record(Id, Id).optional(),
  seenStep: Seen,
});
export type ExcludeLines = z.infer<typeof ExcludeLines>;

/** A line that another may belong together with: its original, or the bank's correction of it. */
export const MateLine = z.object({
  id: Id,
  date: CalendarDate,
  amount: Minor,
  description: z.string(),
  /** What was decided about it; null while it is open. */
  decision: DecisionKind.nullable(),
});
export type MateLine = z.infer<typeof MateLine>;

/** What an open line may be a second copy of, and lines that may correct it, likely ones first. */
export const LineMates = z.object({
  originals: z.array(MateLine),
  corrections: z.array(MateLine),
});
export type LineMates = z.infer<typeof LineMates>;

/** These lines came in through the wrong bank account: they belong to this one. */
export const MoveLines = z.object({ target: Target, bankAccountId: BankAccountId, seenStep: Seen });
export type MoveLines = z.infer<typeof MoveLines>;

/** The sender has looked: these lines are payments of their own, not second copies. */
export const ConfirmBothReal = z.object({
  lineIds: z.array(LineId).min(1).max(20_000),
  seenStep: Seen,
});
export type ConfirmBothReal = z.infer<typeof ConfirmBothReal>;

/** Decided lines that a command is about: named, or all that were decided so. */
export const DecidedTarget = z.union([
  z.object({ lineIds: z.array(LineId).min(1).max(20_000) }),
  z.object({ decided: Decided }),
]);
export type DecidedTarget = z.infer<typeof DecidedTarget>;

/** How many lines were decided so, and what they come to. */
export const DecidedSum = z.object({
  count: z.int(),
  /** In the one currency that all of them are in; null where they are in several. */
  total: Minor.nullable(),
  currency: z.string().nullable(),
});
export type DecidedSum = z.infer<typeof DecidedSum>;

/** Opens decided lines again, each by itself: posted, excluded or deleted ones. */
export const ReopenLines = z.object({ target: DecidedTarget, seenStep: Seen });
export type ReopenLines = z.infer<typeof ReopenLines>;

/** Excludes or deletes decided lines for one reason: what was posted of them goes. */
export const ExcludeDecided = ExcludeLines.extend({ target: DecidedTarget });
export type ExcludeDecided = z.infer<typeof ExcludeDecided>;

/** These stacks of look-alikes are one payee's. */
export const MergeStacks = z.object({
  stems: z.array(text(500)).min(2).max(200),
  /** The one that gives the others its name. */
  into: text(500),
});
export type MergeStacks = z.infer<typeof MergeStacks>;

/** What is pointed out so is right as it is: of this payee, or where none is known of look-alikes. */
export const DismissNudge = z.object({
  nudge: z.enum(nudgeKinds),
  payeeId: PayeeId.nullable(),
  stem: text(500),
});
export type DismissNudge = z.infer<typeof DismissNudge>;

/** What is asked about no more, of a payee or of look-alikes. */
export const DismissedNudges = z.object({
  dismissed: z.array(
    z.object({
      nudge: z.enum(nudgeKinds),
      payeeId: PayeeId.nullable(),
      stem: z.string().nullable(),
    }),
  ),
});
export type DismissedNudges = z.infer<typeof DismissedNudges>;

/** What tells the lines of a stack apart: words or numbers that each stand on some of them. */
export const StackParts = z.object({
  /** The word that stands before each of the parts' own; null where several do. */
  before: z.string().nullable(),
  parts: z.array(z.object({ word: z.string(), count: z.int() })),
});
export type StackParts = z.infer<typeof StackParts>;

/** Lines of a stack with one of these words stand apart, those of each word by themselves. */
export const SplitStack = z.object({
  stem: text(500),
  words: z.array(neededText(100, 'a word is needed')).min(1).max(20),
});
export type SplitStack = z.infer<typeof SplitStack>;

/** Posted lines are coded otherwise; what is left out stays. */
export const RecodeLines = z.object({
  target: DecidedTarget,
  payeeId: PayeeId.nullable().optional(),
  accountId: AccountId.optional(),
  taxCodeId: TaxCodeId.nullable().optional(),
  costCentreId: Id.nullable().optional(),
  jobId: Id.nullable().optional(),
  note: text(1_000).nullable().optional(),
  /** Only the parts on this account are coded otherwise; without it whole lines are, and splits keep their accounts. */
  fromAccountId: AccountId.optional(),
  seenStep: Seen,
});
export type RecodeLines = z.infer<typeof RecodeLines>;

/** What a step decided of some of its lines is taken back. */
export const UndoLines = z.object({ lineIds: z.array(LineId).min(1).max(20_000) });
export type UndoLines = z.infer<typeof UndoLines>;

/** The lines that a step decided about, the newest of them up to some hundred. */
export const StepLines = z.object({
  count: z.int(),
  lines: z.array(
    z.object({
      id: Id,
      bankAccountId: BankAccountId,
      date: CalendarDate,
      amount: Minor,
      description: z.string(),
      /** Whether it still stands as the step left it. */
      isStanding: z.boolean(),
    }),
  ),
});
export type StepLines = z.infer<typeof StepLines>;

/** What became of each line: done, or left out for a reason. `step` is null where none was done. */
export const LinesDone = z.object({
  step: z.int().nullable(),
  words: z.string(),
  done: z.array(Id),
  leftOut: z.array(z.object({ lineId: LineId, code: z.string(), message: z.string() })),
});
export type LinesDone = z.infer<typeof LinesDone>;

/** What a sweep of the Ready lines of a scope would post, and what it would leave. */
export const SweepSummary = z.object({
  /** The newest step when it was summed up: lines changed since are left out. */
  seenStep: Seen,
  /** The proposals that were summed up, by their digests: what is proposed otherwise since is left out. */
  seen: z.array(z.string()),
  /** All lines, also both halves of moves between own accounts. */
  count: z.int(),
  /** Of those that are no such halves. */
  paidIn: Minor,
  paidOut: Minor,
  accounts: z.array(z.object({ accountId: AccountId, count: z.int(), total: Minor })),
  /** Of them, those that are paired with what is in the books already; the largest are listed. */
  pairs: z.object({ count: z.int(), total: Minor, lines: z.array(DeskLine) }),
  /** Moves between own accounts of which both halves are among them; the largest are listed. */
  transfers: z.object({
    count: z.int(),
    /** What left, as the line that it left by says. */
    moved: Minor,
    halves: z.array(z.object({ out: DeskLine, in: DeskLine })),
  }),
  /** Payees that nothing was posted to before. */
  newPayeeIds: z.array(PayeeId),
  largest: z.array(DeskLine),
  /** A few of the others, for a look. */
  look: z.array(DeskLine),
  left: z.object({ check: z.int(), blank: z.int(), asked: z.int(), closed: z.int() }),
});
export type SweepSummary = z.infer<typeof SweepSummary>;

export const SweepLines = z.object({
  scope: Scope,
  /** Lines taken out of it. */
  without: z.array(Id).max(20_000),
  seenStep: Seen,
  seen: z.array(text(20)).max(20_000),
});
export type SweepLines = z.infer<typeof SweepLines>;

/** A part of what is unexplained, and why. */
export const ProofCause = z.object({
  kind: z.enum(causeKinds),
  amount: Minor,
  bankAccountId: BankAccountId,
  date: CalendarDate,
  lineId: LineId.nullable(),
  entryId: EntryId.nullable(),
  text: z.string().nullable(),
  since: CalendarDate.nullable(),
  likely: z
    .object({
      reason: z.enum(breakReasons),
      lineId: LineId,
      date: CalendarDate,
      description: z.string(),
    })
    .nullable(),
}) satisfies z.ZodType<CoreProofCause>;
export type ProofCause = z.infer<typeof ProofCause>;

export const Proof = z.object({
  date: CalendarDate,
  /** In which the terms are. */
  currency: z.string(),
  /** How many bank accounts of other currencies the terms are without. */
  otherCount: z.int(),
  bank: Minor,
  isStated: z.boolean(),
  statedDate: CalendarDate.nullable(),
  accountCount: z.int(),
  statedCount: z.int(),
  open: Minor,
  openCount: z.int(),
  keptOut: Minor,
  keptOutCount: z.int(),
  outstanding: Minor,
  outstandingCount: z.int(),
  shouldSay: Minor,
  books: Minor,
  unexplained: Minor,
  /** Why, part by part; the parts add up to what is unexplained. */
  causes: z.array(ProofCause).readonly(),
});
export type Proof = z.infer<typeof Proof>;

/** An entry or pairing that the bank has not reported yet. */
export const OutstandingItem = z.object({
  amount: Minor,
  bankAccountId: BankAccountId,
  date: CalendarDate,
  lineId: LineId.nullable(),
  entryId: EntryId.nullable(),
  text: z.string().nullable(),
  kind: z.enum(candidateKinds).nullable(),
  number: z.string().nullable(),
  payee: z.string().nullable(),
});
export type OutstandingItem = z.infer<typeof OutstandingItem>;

/** The proof of the bank accounts in a scope; null while there is nothing to prove. */
export const ScopeProof = z.object({ proof: Proof.nullable() });
export type ScopeProof = z.infer<typeof ScopeProof>;

export const Step = HistoryItem.extend({
  kind: z.string(),
  userId: UserId,
  undoes: z.int().nullable(),
  itemCount: z.int(),
  /** Whether it decided about lines. */
  hasLines: z.boolean(),
  /** Whether a later step took it back and that still holds. */
  isUndone: z.boolean(),
});
export type Step = z.infer<typeof Step>;
export const Steps = page(Step).extend({
  /** Everybody who took a step in these books. */
  people: z.array(z.object({ id: Id, name: z.string() })),
});
export type Steps = z.infer<typeof Steps>;

/** Kinds of steps as people look for them. */
export const StepGroup = z.enum(stepGroups);
export type StepGroup = z.infer<typeof StepGroup>;

/** Which steps are wanted; what is left out wants all. */
export const StepsWanted = z.object({
  group: StepGroup.optional(),
  userId: UserId.optional(),
  /** Words of the step. */
  search: text(200).optional(),
});
export type StepsWanted = z.infer<typeof StepsWanted>;

export const UndoStep = z.object({
  /** The step to take back, or null for the sender's own latest. */
  step: z.int().nullable(),
  /** Also take back the later steps that touched the same things. */
  withLater: z.boolean(),
});
export type UndoStep = z.infer<typeof UndoStep>;

export const RedoStep = z.object({
  /** The step to bring back, or null for the one the sender took back last. */
  step: z.int().nullable(),
  /** Also bring back the earlier steps that it rests on. */
  withEarlier: z.boolean().default(false),
});
export type RedoStep = z.infer<typeof RedoStep>;
/** What undo or redo did: the base steps that it turned, in that order, and how each is now. */
export const UndoDone = StepDone.extend({
  turned: z.array(z.object({ no: z.int(), isUndone: z.boolean() })),
});
export type UndoDone = z.infer<typeof UndoDone>;
