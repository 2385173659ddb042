import { t } from '../words/t.ts';
/** How a batch stands. */
export const batchStatuses = ['reading', 'kept', 'refused', 'takenBack'] as const;

/**
 * Why an open line is held for a decision, whatever is proposed for it: the opening balance includes its day
 * already, or it came when its period was closed.
 */
export const heldReasons = ['beforeOpening', 'late'] as const;
export type HeldReason = (typeof heldReasons)[number];

/** A reason in a few words, as beside a stack. */
export const heldLabels: Readonly<Record<HeldReason, string>> = {
  beforeOpening: t`before the opening balance`,
  late: t`late, its period is closed`,
};

/** The heading over stacks that are held for a reason. */
export const heldHeadings: Readonly<Record<HeldReason, string>> = {
  beforeOpening: t`Dated before the opening balance`,
  late: t`Late lines, dated in a closed period`,
};

/** A reason in sentences, as in the line sheet. */
export const heldWords: Readonly<Record<HeldReason, string>> = {
  beforeOpening: t`The opening balance already includes this day. Exclude the line as before the opening balance, or correct the opening balance.`,
  late: t`The line was imported after its period was closed. If posted, it counts on the first open day and keeps the bank’s date. Exclude it if another line is the same payment.`,
};
