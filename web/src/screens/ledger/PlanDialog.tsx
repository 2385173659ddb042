import type { JournalPlan } from '@zubrell/contract/journals';
import { lastDayOf, monthOf } from '@zubrell/core/dates/calendarDate';
import { rhythms } from '@zubrell/core/ledger/recurring';
import { t } from '@zubrell/core/words/t';
import { type FormEvent, useState } from 'react';
import { Form, Modal } from 'react-bootstrap';
import { journalsApi } from '../../api/journals.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useToday } from '../../app/useToday.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { DateField } from '../../ui/DateField.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { DialogFoot } from '../../ui/DialogFoot.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { Segments } from '../../ui/Segments.tsx';
import { TextField } from '../../ui/TextField.tsx';
import { JournalLegs } from './JournalLegs.tsx';
import { PayeeField } from './PayeeField.tsx';
import { completePlan, emptyPlan, type PlanDraft, planDraftOf, rhythmNames } from './planDraft.ts';

const RHYTHMS = rhythms.map((rhythm) => [rhythm, rhythmNames[rhythm]] as const);

/** Makes a recurring journal, or changes one. */
export function PlanDialog({
  plan,
  start,
  onClose,
}: {
  /** The one to be changed; null for a new one. */
  readonly plan: JournalPlan | null;
  /** What a new one begins with. */
  readonly start?: PlanDraft;
  readonly onClose: () => void;
}) {
  const { booksId } = useBooks();
  const { told } = useUndo();
  const today = useToday();
  const [draft, setDraft] = useState<PlanDraft>(() =>
    plan ? planDraftOf(plan) : (start ?? emptyPlan(lastDayOf(monthOf(today)))),
  );
  const [make, making] = journalsApi.useMakeJournalPlanMutation();
  const [change, changing] = journalsApi.useChangeJournalPlanMutation();
  const set = (part: Partial<PlanDraft>) => setDraft({ ...draft, ...part });
  const complete = completePlan(draft);
  const error = making.error ?? changing.error;

  async function save(event: FormEvent): Promise<void> {
    event.preventDefault();
    if ('missing' in complete) return;
    const body = { booksId, ...complete.plan };
    const answer = plan ? await change({ ...body, planId: plan.id }) : await make(body);
    if (answer.data && told(answer)) onClose();
  }

  return (
    <Dialog
      title={plan ? t`Change recurring journal` : t`New recurring journal`}
      isWide
      onClose={onClose}
    >
      <form onSubmit={(event) => void save(event)}>
        <Modal.Body className="entry-form">
          <div className="form-row">
            <TextField
              label={t`Name`}
              autoFocus
              maxLength={200}
              placeholder={t`Depreciation of the kilns`}
              value={draft.name}
              onChange={({ target }) => set({ name: target.value })}
            />
            <PayeeField
              label={t`Payee`}
              kind="other"
              value={draft.payeeId}
              onChange={(payeeId) => set({ payeeId })}
            />
          </div>
          <Segments
            label={t`How often`}
            choices={RHYTHMS}
            value={draft.rhythm}
            onChange={(rhythm) => set({ rhythm })}
          />
          <div className="form-row">
            <DateField
              label={t`First date`}
              value={draft.startDate}
              hint={
                draft.startDate === lastDayOf(monthOf(draft.startDate))
                  ? t`Always the last day of the month`
                  : undefined
              }
              onChange={(startDate) => set({ startDate })}
            />
            <DateField
              label={t`Last date`}
              min={draft.startDate}
              hint={t`Leave empty if it doesn’t end`}
              value={draft.endDate}
              onChange={(endDate) => set({ endDate })}
            />
          </div>
          <JournalLegs legs={draft.legs} onChange={(legs) => set({ legs })} />
          <Form.Check
            id="plan-reversing"
            className="mb-3"
            label={t`Reverse each journal on the first of the next month`}
            checked={draft.isReversing}
            onChange={({ target }) => set({ isReversing: target.checked })}
          />
          <TextField
            label={t`Note`}
            maxLength={1_000}
            value={draft.note}
            onChange={({ target }) => set({ note: target.value })}
          />
          {plan && plan.posted.length > 0 && (
            <p className="quiet">{t`What was posted before stays as it is.`}</p>
          )}
          {'missing' in complete && <p className="quiet mb-0">{t`Enter ${complete.missing}.`}</p>}
          {error && <ErrorNote error={error} />}
        </Modal.Body>
        <DialogFoot
          isOff={'missing' in complete || making.isLoading || changing.isLoading}
          onLeave={onClose}
        >
          {t`Save recurring journal`}
        </DialogFoot>
      </form>
    </Dialog>
  );
}
