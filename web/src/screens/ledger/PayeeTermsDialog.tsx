import type { Payee } from '@zubrell/contract/books';
import { t } from '@zubrell/core/words/t';
import { Form, Modal } from 'react-bootstrap';
import { useForm } from 'react-hook-form';
import { booksApi } from '../../api/books.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { DialogFoot } from '../../ui/DialogFoot.tsx';
import { TextField } from '../../ui/TextField.tsx';
import { hasOwnAccounts, type OwnAccountFields, OwnAccounts } from './OwnAccounts.tsx';

interface Fields extends OwnAccountFields {
  readonly termsDays: string;
  readonly address: string;
  readonly taxNumber: string;
  readonly country: string;
}

/** After how many days a payee's invoices or bills are due, the address that invoices go to, and accounts of its own. */
export function PayeeTermsDialog({
  payee,
  onClose,
}: {
  readonly payee: Payee;
  readonly onClose: () => void;
}) {
  const { booksId } = useBooks();
  const { told } = useUndo();
  const [change, { isLoading }] = booksApi.useChangePayeeMutation();
  const { register, handleSubmit, formState } = useForm<Fields>({
    defaultValues: {
      termsDays: payee.termsDays === null ? '' : String(payee.termsDays),
      address: payee.address,
      taxNumber: payee.taxNumber,
      country: payee.country,
      accountId: payee.accountId ?? '',
      capitalAccountId: payee.capitalAccountId ?? '',
      makesAccounts: false,
    },
  });
  const save = handleSubmit(async ({ termsDays, address, taxNumber, country, ...own }) => {
    const answer = await change({
      booksId,
      payeeId: payee.id,
      termsDays: termsDays.trim() === '' ? null : Number(termsDays),
      address: address.trim(),
      taxNumber: taxNumber.trim(),
      country: country.trim().toUpperCase(),
      ...(hasOwnAccounts(payee)
        ? {
            accountId: own.accountId || null,
            capitalAccountId: own.capitalAccountId || null,
            makesAccounts: own.makesAccounts,
          }
        : {}),
    });
    if (told(answer)) onClose();
  });
  return (
    <Dialog title={payee.name} onClose={onClose}>
      <form onSubmit={save} noValidate>
        <Modal.Body className="form-grid">
          <OwnAccounts payee={payee} register={register} />
          <TextField
            label={t`Due after, in days`}
            inputMode="numeric"
            hint={t`Leave empty if it differs`}
            error={formState.errors.termsDays && t`Enter a number of days from 0 to 365`}
            {...register('termsDays', {
              validate: (typed) => /^\s*(\d{1,2}|[12]\d\d|3[0-5]\d|36[0-5])?\s*$/.test(typed),
            })}
          />
          <Form.Group controlId="payee-address">
            <Form.Label className="small-heading">{t`Address on invoices`}</Form.Label>
            <Form.Control as="textarea" rows={4} maxLength={500} {...register('address')} />
          </Form.Group>
          <TextField label={t`Tax number`} maxLength={40} {...register('taxNumber')} />
          <TextField
            label={t`Country`}
            placeholder={t`two letters`}
            maxLength={2}
            error={formState.errors.country && t`A country has two letters`}
            {...register('country', { pattern: /^\s*([A-Za-z]{2})?\s*$/ })}
          />
        </Modal.Body>
        <DialogFoot isOff={isLoading} onLeave={onClose}>
          {hasOwnAccounts(payee) ? t`Save accounts and address` : t`Save terms and address`}
        </DialogFoot>
      </form>
    </Dialog>
  );
}
