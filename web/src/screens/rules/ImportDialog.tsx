import { skipToken } from '@reduxjs/toolkit/query';
import type { RuleFileRead } from '@zubrell/contract/rules';
import type { BooksId } from '@zubrell/core/ids';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Modal } from 'react-bootstrap';
import { useDropzone } from 'react-dropzone';
import { booksApi } from '../../api/books.ts';
import { rulesApi } from '../../api/rules.ts';
import { useChoices, useUses } from '../../app/codingChoices.ts';
import { counted } from '../../app/formats.ts';
import { toast } from '../../app/toast.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { Combobox } from '../../ui/Combobox.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { DialogFoot } from '../../ui/DialogFoot.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import type { Choice } from '../../ui/matchingChoices.ts';
import { SelectField } from '../../ui/SelectField.tsx';

type Name = RuleFileRead['names'][number];

const KINDS: Readonly<Record<Name['kind'], string>> = {
  account: t`account`,
  bankAccount: t`bank account`,
  payee: t`payee`,
  taxCode: t`tax code`,
  costCentre: t`cost centre`,
  job: t`job`,
};
const keyOf = ({ kind, name }: Name) => `${kind} ${name}`;

/** Takes a rule file in: what it names differently is chosen first, and duplicates are pointed out. */
export function ImportDialog({
  text: given,
  onClose,
  onDone,
}: {
  /** The text of a file that was just written, to be copied into other books; null to drop one. */
  readonly text: string | null;
  readonly onClose: () => void;
  readonly onDone: () => void;
}) {
  const here = useBooks().booksId;
  const others = (booksApi.useListBooksQuery().data?.books ?? []).filter(
    ({ id, role }) => id !== here && (role === 'owner' || role === 'bookkeeper'),
  );
  const [into, setInto] = useState<BooksId | null>(null);
  // The list of books may come later than the dialog.
  const booksId = into ?? (given === null ? here : (others[0]?.id ?? null));
  const [text, setText] = useState(given);
  const [choices, setChoices] = useState<Readonly<Record<string, string | null>>>({});
  const [withDuplicates, setWithDuplicates] = useState(false);
  const { told } = useUndo();
  const read = rulesApi.useReadRuleFileQuery(
    text !== null && booksId !== null ? { booksId, text } : skipToken,
  );
  const [importRules, { isLoading }] = rulesApi.useImportRulesMutation();
  const file = read.currentData;
  const missing = (file?.names ?? []).filter(({ id }) => id === null);

  async function send(): Promise<void> {
    if (text === null || booksId === null) return;
    const chosen = missing.map((name) => ({
      kind: name.kind,
      name: name.name,
      id: choices[keyOf(name)] ?? null,
    }));
    const answer = await importRules({ booksId, text, choices: chosen, withDuplicates });
    if (booksId === here || !answer.data) told(answer);
    else {
      // Undo in a toast is for the books on the screen.
      toast(`${answer.data.words}.`);
      for (const { message } of answer.data.leftOut) toast.warning(t`Left out: ${message}`);
    }
    if (answer.data) onDone();
  }

  return (
    <Dialog
      title={given === null ? t`Import rules` : t`Copy to other books`}
      isWide
      onClose={onClose}
    >
      <Modal.Body className="rules-dialog">
        {given !== null &&
          (others.length === 0 ? (
            <p>{t`You can’t change rules in any other books.`}</p>
          ) : (
            <SelectField
              label={t`Into these books`}
              value={booksId ?? ''}
              onChange={({ target }) => setInto(target.value)}
            >
              {others.map(({ id, name }) => (
                <option key={id} value={id}>
                  {name}
                </option>
              ))}
            </SelectField>
          ))}
        {text === null && <DropRules onText={setText} />}
        {read.error !== undefined && <ErrorNote error={read.error} />}
        {file && (
          <>
            <p className="mt-3">
              {t`${counted(file.count, 'rule is added', 'rules are added')}, switched off and in the file’s order.`}
            </p>
            {file.duplicates.length > 0 && (
              <label className="d-flex gap-2">
                <input
                  type="checkbox"
                  className="form-check-input"
                  checked={withDuplicates}
                  onChange={({ target }) => setWithDuplicates(target.checked)}
                />
                <span>
                  {t`Also the ${file.duplicates.length} that are here already: ${file.duplicates.slice(0, 5).join(', ')}`}
                  {file.duplicates.length > 5 && ' …'}
                </span>
              </label>
            )}
            {missing.length > 0 && (
              <>
                <h3 className="small-heading mt-3">
                  {t`These names aren’t in these books. Choose what each one is here; rules with unresolved names are left out.`}
                </h3>
                <ul className="name-choices">
                  {missing.map((name) => (
                    <li key={keyOf(name)}>
                      <span>
                        <span className="quiet">{KINDS[name.kind]}</span> {name.name}
                      </span>
                      <NameChoice
                        name={name}
                        booksId={booksId ?? ''}
                        value={choices[keyOf(name)] ?? null}
                        onChange={(id) => setChoices({ ...choices, [keyOf(name)]: id })}
                      />
                    </li>
                  ))}
                </ul>
              </>
            )}
          </>
        )}
      </Modal.Body>
      <DialogFoot isOff={!file || isLoading} onLeave={onClose} onConfirm={send}>
        {t`Import`}
      </DialogFoot>
    </Dialog>
  );
}

/** Takes the text of a rule file, dropped or chosen. */
function DropRules({ onText }: { readonly onText: (text: string) => void }) {
  const { getRootProps, getInputProps, isDragActive } = useDropzone({
    multiple: false,
    onDropAccepted: ([file]) => void file?.text().then(onText),
  });
  return (
    <div {...getRootProps({ className: `drop-rules ${isDragActive ? 'over' : ''}` })}>
      <input {...getInputProps({ 'aria-label': t`Rule file` })} />
      {t`Drop a rule file here, or choose one.`}
    </div>
  );
}

/** Chooses what a name of a file is in the books it comes into. */
function NameChoice({
  name,
  booksId,
  value,
  onChange,
}: {
  readonly name: Name;
  readonly booksId: BooksId;
  readonly value: string | null;
  readonly onChange: (id: string | null) => void;
}) {
  const here = useBooks();
  const uses = useUses();
  const own = {
    account: useChoices('accountId', uses),
    payee: useChoices('payeeId', uses),
    taxCode: useChoices('taxCodeId', uses),
  };
  const setup = booksApi.useSetupQuery(booksId).data ?? here.setup;
  const named = (things: readonly { readonly id: string; readonly name: string }[]): Choice[] =>
    things.map(({ id, name: label }) => ({ id, label }));
  const choices: readonly Choice[] =
    name.kind === 'bankAccount'
      ? named(setup.bankAccounts)
      : name.kind === 'costCentre' || name.kind === 'job'
        ? named(setup.costObjects.filter(({ kind }) => kind === name.kind))
        : booksId === here.booksId
          ? own[name.kind]
          : name.kind === 'account'
            ? setup.accounts.map(({ id, code, name: label }) => ({ id, label: `${code} ${label}` }))
            : named(name.kind === 'payee' ? setup.payees : setup.taxCodes);
  return (
    <Combobox
      label={t`${KINDS[name.kind]} for ${name.name}`}
      placeholder={t`leave out`}
      choices={choices}
      value={value}
      onChange={onChange}
    />
  );
}
