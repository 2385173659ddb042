declare const kind: unique symbol;

/**
 * The id of one kind of thing. A plain string is taken for one, so that tests and what was just parsed need no cast; the
 * id of another kind is not.
 */
type IdOf<Kind extends string> = string & { readonly [kind]?: Kind };

export type AccountId = IdOf<'account'>;
export type BankAccountId = IdOf<'bankAccount'>;
export type BatchId = IdOf<'batch'>;
export type BooksId = IdOf<'books'>;
export type DecisionId = IdOf<'decision'>;
export type DocumentId = IdOf<'document'>;
export type EntryId = IdOf<'entry'>;
export type FeedId = IdOf<'feed'>;
export type JournalPlanId = IdOf<'journalPlan'>;
export type LegId = IdOf<'leg'>;
export type LineId = IdOf<'line'>;
export type PayeeId = IdOf<'payee'>;
export type QuestionId = IdOf<'question'>;
export type RuleId = IdOf<'rule'>;
export type StatementId = IdOf<'statement'>;
export type TaxCodeId = IdOf<'taxCode'>;
export type TaxReturnId = IdOf<'taxReturn'>;
export type UserId = IdOf<'user'>;
